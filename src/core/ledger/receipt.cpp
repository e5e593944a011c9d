#include "ledger/receipt.h"

#include <algorithm>
#include <map>

#include <nlohmann/json.hpp>

namespace octaphon {
namespace {

using Json = nlohmann::ordered_json;

constexpr std::size_t kLinesOfAFile = 2;  // kept when it is written anew
constexpr std::string_view kFileKind = "file";
constexpr std::string_view kMeasuredKind = "measured";
constexpr std::string_view kEditionKind = "edition";
constexpr std::string_view kEditionHead = R"({"kind":"edition",)";  // as dumped() begins such lines

std::string dumped(const Json& json) {
  return json.dump(-1, ' ', false, Json::error_handler_t::replace) + "\n";
}

}  // namespace

std::string Receipt::asText(const ReceiptLine& line) {
  Json json{{"kind", kFileKind},
            {"key", line.key},
            {"file", line.file},
            {"hash", line.content.hex()},
            {"sound", line.fingerprint.sound.hex()},
            {"form", line.fingerprint.form.hex()},
            {"tags", line.fingerprint.tags.hex()},
            {"engine", line.fingerprint.engine.hex()},
            {"head", line.head},
            {"size", line.stamp.size},
            {"changed", line.stamp.changed}};
  if (!line.unknownKeys.empty()) json.update(Json::parse(line.unknownKeys, nullptr, false));
  return dumped(json);
}

std::string Receipt::asText(const Measured& measured) {
  return dumped({{"kind", kMeasuredKind},
                 {"key", measured.key},
                 {"sound", measured.sound.hex()},
                 {"tail", measured.tail},
                 {"by_limit", measured.byLimit},
                 {"left_db", measured.leftDb},
                 {"from", measured.kept.from},
                 {"to", measured.kept.to}});
}

std::string Receipt::asText(const Edition& edition) {
  return dumped({{"kind", kEditionKind},
                 {"brief", edition.brief},
                 {"version", edition.version},
                 {"date", dateText(edition.date)},
                 {"user", edition.user},
                 {"machine", edition.machine}});
}

namespace {

template <class T>
T valueOf(const Json& json, const char* key) {
  const auto found = json.find(key);
  if (found == json.end()) return {};
  if constexpr (std::is_same_v<T, std::string>)
    return found->is_string() ? found->get<std::string>() : T{};
  else if constexpr (std::is_same_v<T, bool>)
    return found->is_boolean() && found->get<bool>();
  else if constexpr (std::is_same_v<T, double>)
    return found->is_number() ? found->get<double>() : T{};
  else
    return found->is_number_integer() ? found->get<T>() : T{};
}

Digest digestAt(const Json& json, const char* key) {
  return Digest::fromHex(valueOf<std::string>(json, key));
}

/// JSON of what is none of our keys; the one digest of the first versions says nothing any more.
std::string otherKeys(const Json& json) {
  constexpr std::string_view kOurs[]{"kind", "key",    "file", "hash", "sound",   "form",
                                     "tags", "engine", "head", "size", "changed", "fingerprint"};
  Json others = Json::object();
  for (const auto& [key, value] : json.items())
    if (std::find(std::begin(kOurs), std::end(kOurs), key) == std::end(kOurs)) others[key] = value;
  return others.empty() ? std::string() : others.dump(-1, ' ', false, Json::error_handler_t::replace);
}

std::optional<ReceiptLine> parseLine(const Json& json) {
  if (!json.is_object()) return std::nullopt;
  ReceiptLine line;
  line.key = valueOf<std::string>(json, "key");
  line.file = valueOf<std::string>(json, "file");
  line.content = digestAt(json, "hash");
  line.fingerprint = {digestAt(json, "sound"), digestAt(json, "form"), digestAt(json, "tags"),
                      digestAt(json, "engine")};
  line.head = valueOf<std::uint64_t>(json, "head");
  line.stamp = {valueOf<std::uint64_t>(json, "size"), valueOf<std::int64_t>(json, "changed")};
  line.unknownKeys = otherKeys(json);
  if (line.key.empty() || line.content.empty() || !isPlainRelativePath(line.file)) return std::nullopt;
  return line;
}

std::optional<Measured> parseMeasured(const Json& json) {
  Measured measured;
  measured.key = valueOf<std::string>(json, "key");
  measured.sound = digestAt(json, "sound");
  measured.tail = valueOf<Frame>(json, "tail");
  measured.byLimit = valueOf<bool>(json, "by_limit");
  measured.leftDb = valueOf<double>(json, "left_db");
  measured.kept = {valueOf<Frame>(json, "from"), valueOf<Frame>(json, "to")};
  const bool isSound = measured.tail >= 0 && measured.tail <= kMaxFrame && measured.kept.from >= 0 &&
                       measured.kept.from <= measured.kept.to && measured.kept.to <= kMaxFrame;
  if (measured.key.empty() || measured.sound.empty() || !isSound) return std::nullopt;
  return measured;
}

std::optional<Edition> parseEdition(const Json& json) {
  Edition edition;
  edition.brief = valueOf<std::string>(json, "brief");
  edition.version = valueOf<int>(json, "version");
  edition.user = valueOf<std::string>(json, "user");
  edition.machine = valueOf<std::string>(json, "machine");
  const auto date = parseDate(valueOf<std::string>(json, "date"));
  if (!date || edition.brief.empty() || edition.version < 1) return std::nullopt;
  edition.date = *date;
  return edition;
}

/// The first versions wrote no kind, and only lines about files.
std::string kindOf(const Json& json) {
  return json.contains("kind") ? valueOf<std::string>(json, "kind") : std::string(kFileKind);
}

/// The line's JSON; a nesting a hostile file could hold is cut off before it costs anything.
Json parseShallow(std::string_view text) {
  const auto callback = [](int depth, Json::parse_event_t, Json&) { return depth <= 2; };
  if (std::count(text.begin(), text.end(), '[') + std::count(text.begin(), text.end(), '{') > 64) return {};
  return Json::parse(text.begin(), text.end(), callback, false);
}

}  // namespace

Receipt Receipt::load(const SafeFolder& folder) {
  const auto file = folder.openFile(kReceiptName);
  auto receipt = file ? read(file->get(), folder.path().string()) : Result<Receipt>();
  return receipt ? std::move(*receipt) : Receipt();
}

Result<Receipt> Receipt::read(int fd, const std::string& place) {
  OCTAPHON_ASSIGN(const std::string text, readAll(fd, kMaxReceiptBytes, place));
  return parse(text);
}

const std::string& Receipt::head() {
  static const std::string kHead = R"({"format":"octaphon-receipt","version":"1.2"})"
                                   "\n";
  return kHead;
}

Receipt Receipt::parse(std::string_view text) {
  Receipt receipt;
  while (!text.empty()) {
    const std::size_t end = text.find('\n');
    const std::string_view one = text.substr(0, end);
    text.remove_prefix(end == std::string_view::npos ? text.size() : end + 1);
    if (one.empty()) continue;
    ++receipt.lines_;
    receipt.take(one);
  }
  return receipt;
}

void Receipt::take(std::string_view text) {
  const Json json = parseShallow(text);
  if (json.contains("format")) {
    --lines_;  // the head, of whatever version
  } else if (json.is_object() && kindOf(json) == kMeasuredKind) {
    if (auto measured = parseMeasured(json))
      measured_[measured->key] = std::move(*measured);
    else
      ++damaged_;
  } else if (json.is_object() && kindOf(json) == kEditionKind) {
    // What a newer version says otherwise is kept with it.
    if (const auto edition = parseEdition(json)) editions_[edition->brief] = *edition;
    editionLines_.emplace_back(text);
  } else if (json.is_object() && kindOf(json) != kFileKind) {
    others_.emplace_back(text);
  } else if (auto line = parseLine(json)) {
    byFile_[line->file].push_back(std::move(*line));
  } else {
    ++damaged_;
  }
}

std::map<std::string, Edition> Receipt::editionsIn(std::string_view text) {
  std::map<std::string, Edition> editions;
  while (!text.empty()) {
    const std::size_t end = text.find('\n');
    const std::string_view line = text.substr(0, end);
    text.remove_prefix(end == std::string_view::npos ? text.size() : end + 1);
    if (!line.starts_with(kEditionHead)) continue;
    if (auto edition = parseEdition(parseShallow(line))) editions[edition->brief] = std::move(*edition);
  }
  return editions;
}

std::size_t Receipt::kept() const {
  std::size_t kept = others_.size() + editionLines_.size() + measured_.size();
  for (const auto& [file, lines] : byFile_) kept += std::min(lines.size(), kLinesOfAFile);
  return kept;
}

bool Receipt::paysToCompact() const { return lines_ > 0 && kept() * 2 <= lines_; }

std::string Receipt::compacted() const {
  std::vector<const std::vector<ReceiptLine>*> files;
  for (const auto& [file, lines] : byFile_) files.push_back(&lines);
  std::sort(files.begin(), files.end(),
            [](const auto* a, const auto* b) { return a->front().file < b->front().file; });
  std::string text = head();
  for (const std::string& line : editionLines_) text += line + "\n";
  for (const std::string& line : others_) text += line + "\n";
  const std::map<std::string_view, const Measured*> inOrder = [&] {
    std::map<std::string_view, const Measured*> found;
    for (const auto& [key, measured] : measured_) found[key] = &measured;
    return found;
  }();
  for (const auto& [key, measured] : inOrder) text += asText(*measured);
  for (const auto* lines : files)
    for (std::size_t i = lines->size() - std::min(lines->size(), kLinesOfAFile); i < lines->size(); ++i)
      text += asText((*lines)[i]);
  return text;
}

const std::vector<ReceiptLine>& Receipt::linesOf(const std::string& file) const {
  static const std::vector<ReceiptLine> kNone;
  const auto found = byFile_.find(file);
  return found == byFile_.end() ? kNone : found->second;
}

}  // namespace octaphon
