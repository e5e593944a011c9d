#include "ledger/receipt.h"

#include <sys/file.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>

#include <nlohmann/json.hpp>

namespace octaphon {
namespace {

using Json = nlohmann::ordered_json;

constexpr std::uint64_t kMaxReceiptBytes = 1ull << 30;
const std::string kHeadLine = R"({"format":"octaphon-receipt","version":"1.0"})"
                              "\n";

std::string asLine(const ReceiptLine& line) {
  const Json json{{"key", line.key},
                  {"file", line.file},
                  {"hash", line.content.hex()},
                  {"fingerprint", line.fingerprint.hex()},
                  {"head", line.head},
                  {"size", line.stamp.size},
                  {"changed", line.stamp.changed}};
  return json.dump(-1, ' ', false, Json::error_handler_t::replace) + "\n";
}

template <class T>
T valueOf(const Json& json, const char* key) {
  const auto found = json.find(key);
  if (found == json.end()) return {};
  if constexpr (std::is_same_v<T, std::string>)
    return found->is_string() ? found->get<std::string>() : T{};
  else
    return found->is_number_integer() ? found->get<T>() : T{};
}

std::optional<ReceiptLine> parseLine(const Json& json) {
  if (!json.is_object()) return std::nullopt;
  ReceiptLine line{valueOf<std::string>(json, "key"),
                   valueOf<std::string>(json, "file"),
                   Digest::fromHex(valueOf<std::string>(json, "hash")),
                   Digest::fromHex(valueOf<std::string>(json, "fingerprint")),
                   valueOf<std::uint64_t>(json, "head"),
                   {valueOf<std::uint64_t>(json, "size"), valueOf<std::int64_t>(json, "changed")}};
  if (line.key.empty() || line.content.empty() || !isPlainRelativePath(line.file)) return std::nullopt;
  return line;
}

/// The line's JSON; a nesting a hostile file could hold is cut off before it costs anything.
Json parseShallow(std::string_view text) {
  const auto callback = [](int depth, Json::parse_event_t, Json&) { return depth <= 2; };
  if (std::count(text.begin(), text.end(), '[') + std::count(text.begin(), text.end(), '{') > 64) return {};
  return Json::parse(text.begin(), text.end(), callback, false);
}

}  // namespace

Receipt Receipt::load(const SafeFolder& folder) {
  const auto text = readFile(folder.path() / kReceiptName, kMaxReceiptBytes);
  return text ? parse(*text) : Receipt();
}

Receipt Receipt::parse(std::string_view text) {
  Receipt receipt;
  while (!text.empty()) {
    const std::size_t end = text.find('\n');
    const std::string_view one = text.substr(0, end);
    text.remove_prefix(end == std::string_view::npos ? text.size() : end + 1);
    if (one.empty() || one == std::string_view(kHeadLine).substr(0, kHeadLine.size() - 1)) continue;
    const auto line = parseLine(parseShallow(one));
    if (line)
      receipt.byFile_[line->file].push_back(*line);
    else
      ++receipt.damaged_;
  }
  return receipt;
}

const std::vector<ReceiptLine>& Receipt::linesOf(const std::string& file) const {
  static const std::vector<ReceiptLine> kNone;
  const auto found = byFile_.find(file);
  return found == byFile_.end() ? kNone : found->second;
}

Result<ReceiptJournal> ReceiptJournal::open(const SafeFolder& folder) {
  OCTAPHON_ASSIGN(FileHandle handle, folder.openForAppend(kReceiptName));
  const std::string place = (folder.path() / kReceiptName).string();
  if (::flock(handle.get(), LOCK_EX | LOCK_NB) != 0)
    return fail(ErrorCode::Busy, place, "another run is writing into this folder",
                "Wait for it to end, or choose another folder");
  const auto stamp = stampOf(handle.get());
  if (stamp && stamp->size == 0) OCTAPHON_TRY(writeAll(handle.get(), kHeadLine, place));
  // A line cut off by a crash must not swallow the next one.
  char last = '\n';
  if (stamp && stamp->size > 0 && ::pread(handle.get(), &last, 1, static_cast<off_t>(stamp->size) - 1) == 1 &&
      last != '\n')
    OCTAPHON_TRY(writeAll(handle.get(), "\n", place));
  return ReceiptJournal(std::move(handle), place);
}

Result<> ReceiptJournal::append(const std::vector<ReceiptLine>& lines, bool sync) {
  std::string text;
  for (const ReceiptLine& line : lines) text += asLine(line);
  OCTAPHON_TRY(writeAll(handle_.get(), text, place_));
  if (sync && ::fdatasync(handle_.get()) != 0)
    return tl::unexpected(systemError(errno, place_, ErrorCode::NotWritable));
  return {};
}

Result<> ReceiptJournal::compact(const SafeFolder& folder) {
  const Receipt receipt = Receipt::load(folder);
  if (receipt.damagedLines() > 0) return {};  // leave what may still be of use to someone
  std::vector<const std::vector<ReceiptLine>*> files;
  for (const auto& [file, lines] : receipt.byFile()) files.push_back(&lines);
  std::sort(files.begin(), files.end(),
            [](const auto* a, const auto* b) { return a->front().file < b->front().file; });
  std::string text = kHeadLine;
  for (const auto* lines : files)
    for (std::size_t i = lines->size() > 2 ? lines->size() - 2 : 0; i < lines->size(); ++i)
      text += asLine((*lines)[i]);
  return replaceFile(place_, text);
}

}  // namespace octaphon
