#include "ledger/receipt.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <sstream>

#include <nlohmann/json.hpp>

namespace octaphon {
namespace {

using Json = nlohmann::ordered_json;

constexpr std::int64_t kMaxNumber = 1'000'000'000;
constexpr std::size_t kPairsOfALine = 200;
constexpr std::size_t kLinesOfAFile = 2;  // kept when it is written anew
constexpr std::string_view kShareHead = "octaphon-receipt.", kShareEnd = ".jsonl";  // a share between
constexpr std::string_view kFileKind = "file";
constexpr std::string_view kMeasuredKind = "measured";
constexpr std::string_view kEditionKind = "edition";
constexpr std::string_view kNumbersKind = "numbers";
constexpr std::string_view kNumbersAnewKind = "numbers-anew";
constexpr std::string_view kAcceptedKind = "accepted";
constexpr std::string_view kRemovedKind = "removed";
constexpr std::string_view kAcceptedAnewKind = "accepted-anew";
constexpr std::string_view kBriefKind = "brief";
constexpr std::string_view kOutlineKind = "outline";
constexpr std::string_view kListKind = "list";

std::string jsonText(const Json& json) { return json.dump(-1, ' ', false, Json::error_handler_t::replace); }
std::string dumped(const Json& json) { return jsonText(json) + "\n"; }

/// Null where it cannot be judged; without a key where it was not measured.
Json asJson(const Levels& levels) {
  const auto orNull = [](const std::optional<double>& level) { return level ? Json(*level) : Json(nullptr); };
  Json json{{"peak", orNull(levels.peakDb)}};
  if (levels.measured.truePeak) json["true_peak"] = orNull(levels.truePeakDb);
  if (levels.measured.loudness) {
    json["loudness"] = orNull(levels.lufs);
    json["range"] = orNull(levels.rangeLu);
  }
  return json;
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
  if (line.edition > 0) json["edition"] = line.edition;
  if (!line.session.empty()) json["session"] = line.session;
  if (!line.samples.empty()) json["samples"] = line.samples.hex();
  if (line.gainDb != 0) json["gain_db"] = line.gainDb;
  if (line.levels) json["levels"] = asJson(*line.levels);
  if (!line.unknownKeys.empty()) json.update(Json::parse(line.unknownKeys, nullptr, false));
  std::string text = dumped(json);
  constexpr std::size_t kEnd = 2;  // `}` and the end of the line
  if (!line.made.empty()) text.insert(text.size() - kEnd, ",\"made\":" + line.made);
  return text;
}

std::string Receipt::asText(const Measured& measured) {
  Json json{{"kind", kMeasuredKind},      {"key", measured.key},          {"sound", measured.sound.hex()},
            {"tail", measured.tail},      {"by_limit", measured.byLimit}, {"left_db", measured.leftDb},
            {"from", measured.kept.from}, {"to", measured.kept.to}};
  if (measured.levels) json["levels"] = asJson(*measured.levels);
  return dumped(json);
}

std::string Receipt::asText(const Edition& edition) {
  return dumped({{"kind", kEditionKind},
                 {"brief", edition.brief},
                 {"version", edition.version},
                 {"date", dateText(edition.date)},
                 {"user", edition.user},
                 {"machine", edition.machine}});
}

std::string Receipt::removed(const std::string& file) {
  return dumped({{"kind", kRemovedKind}, {"file", file}});
}

std::string Receipt::numbersAnew(const std::string& brief) {
  return dumped({{"kind", kNumbersAnewKind}, {"brief", brief}});
}

std::string Receipt::asText(const std::string& brief, const std::map<std::string, PairNumbers>& pairs) {
  std::string text;
  Json list = Json::array();
  const auto end = [&] {
    if (!list.empty()) text += dumped({{"kind", kNumbersKind}, {"brief", brief}, {"pairs", std::move(list)}});
    list = Json::array();
  };
  for (const auto& [pair, given] : pairs) {
    std::string words = pair;
    for (const std::uint32_t number : given.numbers.numbers) words += " " + std::to_string(number);
    if (!given.name.empty()) words += " " + given.name.hex();
    list.push_back(std::move(words));
    if (list.size() == kPairsOfALine) end();
  }
  end();
  return text;
}

std::string Receipt::asText(const std::string& brief, const NumberSet& most) {
  return dumped({{"kind", kNumbersKind}, {"brief", brief}, {"most", most.numbers}});
}

std::string Receipt::acceptedAnew(const std::string& brief, const std::vector<Accepted>& accepted) {
  std::string text = dumped({{"kind", kAcceptedAnewKind}, {"brief", brief}});
  for (const Accepted& one : accepted)
    text += dumped({{"kind", kAcceptedKind},
                    {"brief", brief},
                    {"code", one.code},
                    {"reason", one.reason},
                    {"rows", one.rows}});
  return text;
}

std::string Receipt::asText(const DeliveredBrief& brief) {
  return dumped({{"kind", kBriefKind},
                 {"brief", brief.brief},
                 {"session", brief.session},
                 {"place", brief.place},
                 {"name", brief.name},
                 {"sentence", brief.sentence},
                 {"title", brief.title},
                 {"client", brief.client},
                 {"credit", brief.credit},
                 {"notes", brief.notes},
                 {"sources", brief.sources}});
}

std::string Receipt::asText(const HandedList& list) {
  return dumped({{"kind", kListKind}, {"file", list.file}, {"hash", list.content.hex()}});
}

/// Brackets of a text are written as escapes: lines are refused by how many there are before they are read.
static std::string withoutBrackets(const std::string& line) {
  std::string text;
  text.reserve(line.size() + line.size() / 4);
  const std::size_t first = line.find('{'), last = line.rfind('}');
  for (std::size_t i = 0; i < line.size(); ++i) {
    const bool isInside = i > first && i < last;
    if (isInside && line[i] == '{')
      text += "\\u007b";
    else if (isInside && line[i] == '[')
      text += "\\u005b";
    else
      text += line[i];
  }
  return text;
}

std::string Receipt::outline(const std::string& session, const std::string& outline) {
  return withoutBrackets(dumped({{"kind", kOutlineKind}, {"session", session}, {"outline", outline}}));
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
  constexpr std::string_view kOurs[]{"kind",    "key",     "file",    "hash",    "sound",   "form",
                                     "tags",    "engine",  "head",    "size",    "changed", "fingerprint",
                                     "edition", "session", "samples", "gain_db", "levels",  "made"};
  Json others = Json::object();
  for (const auto& [key, value] : json.items())
    if (std::find(std::begin(kOurs), std::end(kOurs), key) == std::end(kOurs)) others[key] = value;
  return others.empty() ? std::string() : jsonText(others);
}

/// Of a level or gain that is there and can be one.
std::optional<double> decibelsAt(const Json& json, const char* key) {
  const auto found = json.find(key);
  if (found == json.end() || !found->is_number()) return std::nullopt;
  const double decibels = found->get<double>();
  return std::fabs(decibels) <= 400 ? std::optional(decibels) : std::nullopt;
}

std::optional<Levels> parseLevels(const Json& json) {
  const auto found = json.find("levels");
  if (found == json.end() || !found->is_object()) return std::nullopt;
  return Levels{{found->contains("true_peak"), found->contains("loudness")},
                decibelsAt(*found, "peak"),
                decibelsAt(*found, "true_peak"),
                decibelsAt(*found, "loudness"),
                decibelsAt(*found, "range")};
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
  line.edition = std::max(0, valueOf<int>(json, "edition"));
  line.session = valueOf<std::string>(json, "session");
  line.samples = digestAt(json, "samples");
  line.gainDb = decibelsAt(json, "gain_db").value_or(0);
  line.levels = parseLevels(json);
  if (const auto made = json.find("made"); made != json.end() && made->is_object())
    line.made = jsonText(*made);
  const bool saysWhat = !line.content.empty() || !line.made.empty();
  if (line.key.empty() || !saysWhat || !isPlainRelativePath(line.file)) return std::nullopt;
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
  measured.levels = parseLevels(json);
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

std::vector<std::string> textsAt(const Json& json, const char* key) {
  std::vector<std::string> texts;
  const auto found = json.find(key);
  if (found == json.end() || !found->is_array()) return texts;
  for (const Json& text : *found)
    if (text.is_string()) texts.push_back(text.get<std::string>());
  return texts;
}

DeliveredBrief parseBrief(const Json& json) {
  const auto text = [&](const char* key) { return valueOf<std::string>(json, key); };
  return {text("brief"),
          text("session"),
          valueOf<int>(json, "place"),
          text("name"),
          text("sentence"),
          text("title"),
          text("client"),
          text("credit"),
          text("notes"),
          textsAt(json, "sources")};
}

std::uint32_t numberOf(const Json& json) {
  const bool isNumber = json.is_number_integer() && json >= 0 && json <= kMaxNumber;
  return isNumber ? json.get<std::uint32_t>() : 0;
}

NumberSet parseNumbers(const Json& list) {
  NumberSet numbers;
  for (std::size_t i = 0; i < kCounters && list.is_array() && i < list.size(); ++i)
    numbers.numbers[i] = numberOf(list[i]);
  return numbers;
}

/// `region:r1/track:t1 3 1 3 0 0`, with a digest behind where numbers count equal names.
void takePair(const std::string& words, StickyNumbers& numbers) {
  std::istringstream parts(words);
  std::string pair, name;
  PairNumbers given;
  parts >> pair;
  for (std::uint32_t& number : given.numbers.numbers) parts >> number;
  if (!parts || pair.empty()) return;
  if (parts >> name) given.name = Digest::fromHex(name);
  numbers.pairs.insert_or_assign(pair, given);
}

/// The first versions wrote no kind, and only lines about files.
std::string kindOf(const Json& json) {
  return json.contains("kind") ? valueOf<std::string>(json, "kind") : std::string(kFileKind);
}

/// The line's JSON; a nesting a hostile file could hold is cut off before it costs anything.
Json parseShallow(std::string_view text) {
  constexpr int kDeepest = 3;
  const auto callback = [](int depth, Json::parse_event_t, Json&) { return depth <= kDeepest; };
  if (std::count(text.begin(), text.end(), '[') + std::count(text.begin(), text.end(), '{') > 64) return {};
  return Json::parse(text.begin(), text.end(), callback, false);
}

}  // namespace

bool isReceiptName(std::string_view name) {
  return name == kReceiptName ||
         (name.starts_with(kShareHead) && name.ends_with(kShareEnd) && name.size() > kShareHead.size());
}

/// Whole lines: what is being written just now, or was cut off by a crash, counts for nothing.
static std::string textIn(const SafeFolder& folder, const std::string& name) {
  const auto file = folder.openFile(name);
  auto text = file ? readAll(file->get(), kMaxReceiptBytes, name) : Result<std::string>();
  if (!text) return {};
  text->resize(Receipt::wholeLines(*text).size());
  if (!text->empty() && text->back() != '\n') *text += '\n';
  return std::move(*text);
}

/// The receipt and the journals of shares.
static std::vector<SafeFolder::Entry> receiptsIn(const SafeFolder& folder) {
  auto entries = folder.list("").value_or(std::vector<SafeFolder::Entry>());
  std::erase_if(entries,
                [](const SafeFolder::Entry& entry) { return !entry.isFile || !isReceiptName(entry.name); });
  return entries;
}

static std::uint64_t bytesOf(const std::vector<SafeFolder::Entry>& files) {
  std::uint64_t bytes = 0;
  for (const SafeFolder::Entry& file : files) bytes += file.stamp.size;
  return bytes;
}

std::vector<std::string> sharesIn(const SafeFolder& folder) {
  std::vector<std::string> shares;
  for (const SafeFolder::Entry& entry : receiptsIn(folder))
    if (entry.name != kReceiptName) shares.push_back(entry.name);
  std::sort(shares.begin(), shares.end());
  return shares;
}

Receipt Receipt::load(const SafeFolder& folder) {
  const std::uint64_t bytes = bytesOf(receiptsIn(folder));
  std::string text = textIn(folder, std::string(kReceiptName));
  for (const std::string& share : sharesIn(folder)) text += textIn(folder, share);
  Receipt receipt = parse(text);
  receipt.loaded_ = bytes;
  return receipt;
}

bool Receipt::isAllOf(const SafeFolder& folder) const { return loaded_ == bytesOf(receiptsIn(folder)); }

Result<Receipt> Receipt::read(int fd, const std::string& place) {
  OCTAPHON_ASSIGN(const std::string text, readAll(fd, kMaxReceiptBytes, place));
  return parse(text);
}

const std::string& Receipt::head() {
  static const std::string kHead = R"({"format":"octaphon-receipt","version":"1.5"})"
                                   "\n";
  return kHead;
}

Receipt Receipt::parse(std::string_view text) {
  Receipt receipt;
  receipt.add(text);
  return receipt;
}

std::string_view Receipt::wholeLines(std::string_view text) {
  const std::size_t last = text.rfind('\n') + 1;
  return last == text.size() || parseShallow(text.substr(last)).is_object() ? text : text.substr(0, last);
}

/// A line, and what can be told of it without the others.
struct Receipt::Parsed {
  std::string_view text;
  Json json;
  std::string kind;
  std::optional<ReceiptLine> file;
};

void Receipt::add(std::string_view text) {
  std::vector<Parsed> lines;
  while (!text.empty()) {
    const std::size_t end = text.find('\n');
    if (end != 0) lines.push_back({text.substr(0, end), {}, {}, {}});
    text.remove_prefix(end == std::string_view::npos ? text.size() : end + 1);
  }
  tbb::parallel_for(tbb::blocked_range<std::size_t>(0, lines.size(), 64), [&](const auto& share) {
    for (std::size_t i = share.begin(); i < share.end(); ++i) {
      Parsed& line = lines[i];
      line.json = parseShallow(line.text);
      if (line.json.is_object()) line.kind = kindOf(line.json);
      if (line.kind == kFileKind && !line.json.contains("format")) {
        line.file = parseLine(line.json);
        line.json = Json::object();
      }
    }
  });
  for (Parsed& line : lines) take(line);
}

bool Receipt::has(const Measured& measured) const {
  const auto found = measured_.find(measured.key);
  return found != measured_.end() && asText(found->second) == asText(measured);
}

bool Receipt::has(const ReceiptLine& line) const {
  const std::vector<ReceiptLine>& lines = linesOf(line.file);
  return !lines.empty() && asText(lines.back()) == asText(line);
}

void Receipt::take(Parsed& line) {
  ++lines_;
  if (line.json.contains("format")) {
    --lines_;  // the head, of whatever version
  } else if (line.kind == kMeasuredKind) {
    if (auto measured = parseMeasured(line.json))
      measured_[measured->key] = std::move(*measured);
    else
      ++damaged_;
  } else if (line.kind == kEditionKind) {
    // What a newer version says otherwise is kept with it.
    if (const auto edition = parseEdition(line.json)) editions_[edition->brief] = *edition;
    if (std::find(editionLines_.begin(), editionLines_.end(), line.text) == editionLines_.end())
      editionLines_.emplace_back(line.text);
  } else if (line.kind == kNumbersKind || line.kind == kNumbersAnewKind) {
    takeNumbers(line);
  } else if (line.kind == kAcceptedKind || line.kind == kAcceptedAnewKind) {
    takeAccepted(line);
  } else if (line.kind == kBriefKind) {
    DeliveredBrief brief = parseBrief(line.json);
    briefs_[brief.brief] = std::move(brief);
  } else if (line.kind == kOutlineKind) {
    outlines_[valueOf<std::string>(line.json, "session")] = valueOf<std::string>(line.json, "outline");
  } else if (line.kind == kListKind) {
    takeList(line);
  } else if (line.kind == kRemovedKind) {
    removed_.insert(valueOf<std::string>(line.json, "file"));
  } else if (!line.kind.empty() && line.kind != kFileKind) {
    others_.emplace_back(line.text);
  } else if (line.file) {
    ReceiptLine file = std::move(*line.file);
    const auto edition = file.edition > 0 ? editions_.end() : editions_.find(file.brief());
    if (edition != editions_.end()) file.edition = edition->second.version;
    removed_.erase(file.file);
    byFile_[file.file].push_back(std::move(file));
  } else {
    ++damaged_;
  }
}

void Receipt::takeNumbers(const Parsed& line) {
  const auto brief = valueOf<std::string>(line.json, "brief");
  if (brief.empty()) {
    ++damaged_;
    return;
  }
  if (line.kind == kNumbersAnewKind) {
    numbers_.erase(brief);
    return;
  }
  StickyNumbers& numbers = numbers_[brief];
  if (const auto most = line.json.find("most"); most != line.json.end()) numbers.most = parseNumbers(*most);
  if (const auto pairs = line.json.find("pairs"); pairs != line.json.end() && pairs->is_array())
    for (const Json& words : *pairs)
      if (words.is_string()) takePair(words.get_ref<const std::string&>(), numbers);
}

void Receipt::takeList(const Parsed& line) {
  std::vector<Digest>& contents = lists_[valueOf<std::string>(line.json, "file")];
  contents.push_back(digestAt(line.json, "hash"));
  if (contents.size() > kLinesOfAFile) contents.erase(contents.begin());
}

void Receipt::takeAccepted(const Parsed& line) {
  const auto brief = valueOf<std::string>(line.json, "brief");
  if (line.kind == kAcceptedAnewKind) return accepted_[brief].clear();
  Accepted one{valueOf<std::string>(line.json, "code"), valueOf<std::string>(line.json, "reason"), {}};
  one.rows = textsAt(line.json, "rows");
  accepted_[brief].push_back(std::move(one));
}

std::size_t Receipt::kept() const {
  std::size_t kept = others_.size() + editionLines_.size() + measured_.size() + removed_.size() +
                     briefs_.size() + outlines_.size() + lists_.size() * kLinesOfAFile;
  for (const auto& [brief, numbers] : numbers_) kept += numbers.pairs.size() / kPairsOfALine + 2;
  for (const auto& [brief, accepted] : accepted_) kept += accepted.size() + 1;
  for (const auto& [file, lines] : byFile_) kept += std::min(lines.size(), kLinesOfAFile);
  return kept;
}

bool Receipt::paysToCompact() const { return lines_ > 0 && kept() * 2 <= lines_; }

static std::string textOf(const std::string& brief, const StickyNumbers& numbers) {
  std::string text = Receipt::asText(brief, numbers.most);
  return text + Receipt::asText(brief, {numbers.pairs.begin(), numbers.pairs.end()});
}

std::string Receipt::compacted() const {
  std::vector<const std::vector<ReceiptLine>*> files;
  for (const auto& [file, lines] : byFile_) files.push_back(&lines);
  std::sort(files.begin(), files.end(),
            [](const auto* a, const auto* b) { return a->front().file < b->front().file; });
  std::string text = head();
  for (const std::string& line : editionLines_) text += line + "\n";
  for (const std::string& line : others_) text += line + "\n";
  for (const auto& [session, outlined] : outlines_) text += outline(session, outlined);
  for (const auto& [id, brief] : briefs_) text += asText(brief);
  for (const auto& [file, contents] : lists_)
    for (const Digest& content : contents) text += asText(HandedList{file, content});
  for (const auto& [brief, numbers] : numbers_) text += textOf(brief, numbers);
  for (const auto& [brief, accepted] : accepted_)
    if (!accepted.empty()) text += acceptedAnew(brief, accepted);
  const std::map<std::string_view, const Measured*> inOrder = [&] {
    std::map<std::string_view, const Measured*> found;
    for (const auto& [key, measured] : measured_) found[key] = &measured;
    return found;
  }();
  for (const auto& [key, measured] : inOrder) text += asText(*measured);
  for (const auto* lines : files)
    for (std::size_t i = lines->size() - std::min(lines->size(), kLinesOfAFile); i < lines->size(); ++i)
      text += asText((*lines)[i]);
  for (const std::string& file : removed_) text += removed(file);
  return text;
}

const std::vector<ReceiptLine>& Receipt::linesOf(const std::string& file) const {
  static const std::vector<ReceiptLine> kNone;
  const auto found = byFile_.find(file);
  return found == byFile_.end() ? kNone : found->second;
}

}  // namespace octaphon
