#include "exchange/region_table.h"

#include <algorithm>
#include <array>
#include <map>
#include <optional>
#include <set>
#include <tuple>

#include "base/ascii.h"
#include "base/files.h"
#include "base/text_table.h"
#include "base/unicode.h"
#include "edit/ids.h"
#include "edit/regions.h"
#include "session/vocabulary.h"

namespace octaphon {
namespace {

enum class Column { Id, Kind, Name, Start, End, Length, Colour, Set, Notes };
constexpr std::array kColumnNames{"id", "kind", "name", "start", "end", "length", "colour", "set", "notes"};

/// Other words that tables use for a column, folded, without signs.
const std::map<std::string, Column>& columnWords() {
  static const std::map<std::string, Column> words = [] {
    std::map<std::string, Column> all;
    for (std::size_t i = 0; i < kColumnNames.size(); ++i) all[kColumnNames[i]] = static_cast<Column>(i);
    const auto also = [&](Column column, std::initializer_list<const char*> list) {
      for (const char* word : list) all[word] = column;
    };
    also(Column::Id, {"key", "uid"});
    also(Column::Kind, {"type"});
    also(Column::Name, {"title", "label", "region", "marker", "text"});
    also(Column::Start, {"begin", "from", "in", "at", "position", "time", "starttime", "timein", "offset"});
    also(Column::End, {"stop", "to", "out", "till", "until", "endtime", "timeout"});
    also(Column::Length, {"duration", "dur", "len"});
    also(Column::Colour, {"color", "ink"});
    also(Column::Set, {"markerset", "group", "list"});
    also(Column::Notes, {"note", "comment", "comments", "description", "remark", "remarks"});
    return all;
  }();
  return words;
}

// Times

enum class Unit { Unknown, Seconds, Milliseconds, Frames };

/// Digits with at most one point or comma, as a number over a power of ten.
struct Decimal {
  WideFrame digits = 0;
  WideFrame scale = 1;
  bool hasPoint = false;
};

std::optional<Decimal> parseDecimal(std::string_view text) {
  Decimal value;
  bool any = false;
  for (const char c : text) {
    if (c == '.' || c == ',') {
      if (value.hasPoint) return std::nullopt;
      value.hasPoint = true;
    } else if (isDigit(c)) {
      if (value.digits > WideFrame{kMaxFrame} * 1000 || value.scale > WideFrame{1'000'000'000'000}) {
        if (!value.hasPoint) return std::nullopt;
        continue;  // finer than a frame ever is
      }
      value.digits = value.digits * 10 + (c - '0');
      if (value.hasPoint) value.scale *= 10;
      any = true;
    } else {
      return std::nullopt;
    }
  }
  return any ? std::optional(value) : std::nullopt;
}

std::optional<Frame> roundedFrames(WideFrame top, WideFrame bottom) {
  const WideFrame frames = (top * 2 + bottom) / (bottom * 2);
  return frames > kMaxFrame ? std::nullopt : std::optional(static_cast<Frame>(frames));
}

/// `h:mm:ss.fff`, `m:ss,f`: the last part may have decimals.
std::optional<Frame> parseClock(std::string_view text, int rate) {
  WideFrame whole = 0;
  for (int parts = 0; parts < 3; ++parts) {
    const std::size_t colon = text.find(':');
    const auto part = parseDecimal(text.substr(0, colon));
    if (!part || part->digits > WideFrame{kMaxFrame} * 1000) return std::nullopt;
    if (colon == std::string_view::npos)
      return roundedFrames((whole * 60 * part->scale + part->digits) * rate, part->scale);
    if (part->hasPoint || part->digits > 1'000'000'000) return std::nullopt;
    whole = whole * 60 + part->digits;
    text.remove_prefix(colon + 1);
  }
  return std::nullopt;
}

bool looksLikeTimecode(std::string_view text) {
  const auto colons = std::count_if(text.begin(), text.end(), [](char c) { return c == ':' || c == ';'; });
  return colons == 3 || text.find(';') != std::string_view::npos;
}

Unit takeUnit(std::string_view& text) {
  std::size_t digits = text.size();
  while (digits > 0 && !isDigit(text[digits - 1]) && text[digits - 1] != '.' && text[digits - 1] != ',')
    --digits;
  const std::string unit = foldedName(strippedCell(text.substr(digits)));
  text = strippedCell(text.substr(0, digits));
  if (unit == "s" || unit == "sec" || unit == "seconds") return Unit::Seconds;
  if (unit == "ms") return Unit::Milliseconds;
  if (unit == "samples" || unit == "smp" || unit == "frames") return Unit::Frames;
  return unit.empty() ? Unit::Unknown : Unit{-1};
}

Result<Frame> parseTime(std::string_view text, const Session& session, bool isLength, Unit hint) {
  const std::string shown = "'" + printable(text, 60) + "'";
  const auto wrong = [&](const std::string& why) {
    return fail(ErrorCode::BadValue, shown, why,
                "Write it as 0:01:02.500, as a whole number of samples, or as timecode");
  };
  text = strippedCell(text);
  if (text.starts_with('-')) return wrong("a time before the start");
  if (looksLikeTimecode(text)) {
    const auto picture = parseTimecode(text, session.pictureRate);
    if (!picture) return wrong(picture.error().text.empty() ? "no timecode" : picture.error().text);
    const Frame from = isLength ? *picture : *picture - session.startPicture;
    if (from < 0)
      return wrong("it lies before the session, which begins at " +
                   timecodeText(session.startPicture, session.pictureRate));
    return audioFrameOf(from, session.pictureRate, session.rate);
  }
  if (text.find(':') != std::string_view::npos) {
    const auto frames = parseClock(text, session.rate);
    return frames ? Result<Frame>(*frames) : wrong("no time");
  }
  Unit unit = takeUnit(text);
  const auto value = parseDecimal(text);
  if (!value || unit == Unit{-1}) return wrong("no time");
  if (unit == Unit::Unknown) unit = hint;
  if (unit == Unit::Unknown) unit = value->hasPoint ? Unit::Seconds : Unit::Frames;
  const WideFrame factor = unit == Unit::Frames ? 1 : session.rate;
  const WideFrame divisor = unit == Unit::Milliseconds ? 1000 : 1;
  const auto frames = roundedFrames(value->digits * factor, value->scale * divisor);
  return frames ? Result<Frame>(*frames) : wrong("later than a session can be");
}

/// Times with decimal commas that were not put in quotes fall into two cells: `0:01` and `5`. They are joined
/// until the row has no more cells than the head.
void joinDecimals(std::vector<std::string>& cells, std::size_t wanted) {
  const auto isClock = [](const std::string& cell) {
    return cell.find(':') != std::string::npos &&
           std::all_of(cell.begin(), cell.end(), [](char c) { return isDigit(c) || c == ':'; });
  };
  const auto isDecimals = [](const std::string& cell) {
    return !cell.empty() && cell.size() <= 6 && std::all_of(cell.begin(), cell.end(), isDigit);
  };
  for (std::size_t i = 0; i + 1 < cells.size() && cells.size() > wanted; ++i)
    if (isClock(cells[i]) && isDecimals(cells[i + 1])) {
      cells[i] += "," + cells[i + 1];
      cells.erase(cells.begin() + static_cast<std::ptrdiff_t>(i) + 1);
    }
}

// Rows to a session

struct Layout {
  std::map<Column, std::size_t> columns;
  std::map<Column, Unit> units;
  std::map<std::string, std::size_t> facts;  // columns of facts, by name
  bool hasHead = false;

  bool has(Column column) const { return columns.contains(column); }
};

Unit unitOf(const std::vector<std::string>& words) {
  for (const std::string& word : words) {
    if (word == "s" || word == "sec" || word == "secs" || word == "seconds") return Unit::Seconds;
    if (word == "ms" || word == "milliseconds") return Unit::Milliseconds;
    if (word == "samples" || word == "frames" || word == "smp") return Unit::Frames;
  }
  return Unit::Unknown;
}

/// `fact:place` is the fact `place`.
std::string factOfColumn(std::string_view head) {
  constexpr std::string_view kFact = "fact:";
  if (foldedName(head.substr(0, kFact.size())) != kFact) return {};
  return std::string(strippedCell(head.substr(kFact.size())));
}

std::optional<Layout> layoutFromHead(const TableRow& row) {
  Layout layout;
  layout.hasHead = true;
  for (std::size_t i = 0; i < row.cells.size(); ++i) {
    if (const std::string fact = factOfColumn(row.cells[i]); !fact.empty()) {
      layout.facts.emplace(fact, i);
      continue;
    }
    std::vector<std::string> words;
    std::string together;
    for (const std::string& word : wordsOf(row.cells[i])) {
      words.push_back(foldedName(word));
      together += words.back();
    }
    auto found = columnWords().find(together);
    if (found == columnWords().end() && !words.empty()) found = columnWords().find(words.front());
    if (found == columnWords().end()) continue;
    if (layout.columns.emplace(found->second, i).second) layout.units[found->second] = unitOf(words);
  }
  if (!layout.has(Column::Start) && !layout.has(Column::Id)) return std::nullopt;
  return layout;
}

/// Without a head: times are start and end in their order, the first text is the name, the next notes.
std::optional<Layout> layoutFromCells(const TableRow& row, const Session& session) {
  Layout layout;
  for (std::size_t i = 0; i < row.cells.size(); ++i) {
    if (row.cells[i].empty()) continue;
    const bool isTime = parseTime(row.cells[i], session, true, Unit::Unknown).has_value();
    const Column first = isTime ? Column::Start : Column::Name;
    const Column second = isTime ? Column::End : Column::Notes;
    if (!layout.columns.emplace(first, i).second) layout.columns.emplace(second, i);
  }
  if (!layout.has(Column::Start)) return std::nullopt;
  return layout;
}

/// A row, understood.
struct Wanted {
  bool isMarker = false;
  std::string id, name, set, notes;
  bool hasStart = true;
  Frame start = 0, length = 0;
  std::optional<int> ink;
  Facts facts;  // empty texts: there is none
};

class TableReader {
 public:
  TableReader(Session& session, const std::string& place)
      : session_(session), place_(place), maker_(session) {
    for (std::size_t i = 0; i < session.regions.size(); ++i) {
      const Region& region = session.regions[i];
      regions_.emplace(region.id, i);
      there_.insert({region.start, region.length, region.name});
    }
    for (std::size_t s = 0; s < session.markerSets.size(); ++s)
      for (const Marker& marker : session.markerSets[s].markers) {
        markers_.insert(marker.id);
        markersThere_.insert({session.markerSets[s].name, marker.at, marker.name});
      }
  }

  Result<TableOutcome> read(std::string_view bytes) {
    const std::string text = decodedText(bytes);
    if (text.find('\0') != std::string::npos)
      return fail(ErrorCode::Syntax, place_, "it is no text", "Save the table as CSV");
    std::vector<TableRow> rows = tableRows(text);
    if (rows.empty()) return fail(ErrorCode::Syntax, place_, "the table is empty");
    auto layout = layoutFromHead(rows.front());
    if (!layout) layout = layoutFromCells(rows.front(), session_);
    if (!layout)
      return fail(ErrorCode::Syntax, place_ + ", line 1", "there is no column with starts",
                  "Name one column 'start', others 'name', 'end' or 'length'");
    layout_ = *layout;
    for (std::size_t i = layout_.hasHead ? 1 : 0; i < rows.size(); ++i) {
      if (layout_.hasHead) joinDecimals(rows[i].cells, rows.front().cells.size());
      if (auto taken = take(rows[i]); !taken) refuse(rows[i], taken.error());
    }
    for (MarkerSet& set : session_.markerSets)
      std::stable_sort(set.markers.begin(), set.markers.end(),
                       [](const Marker& a, const Marker& b) { return a.at < b.at; });
    return std::move(outcome_);
  }

 private:
  void refuse(const TableRow& row, const Error& error) {
    Error named = error;
    named.place =
        place_ + ", line " + std::to_string(row.line) + (error.place.empty() ? "" : ": " + error.place);
    outcome_.refused.push_back(std::move(named));
  }

  std::string cell(const TableRow& row, Column column) const {
    const auto found = layout_.columns.find(column);
    return found == layout_.columns.end() || found->second >= row.cells.size() ? std::string()
                                                                               : row.cells[found->second];
  }

  Result<std::optional<Frame>> time(const TableRow& row, Column column) const {
    const std::string text = cell(row, column);
    if (text.empty()) return std::optional<Frame>();
    OCTAPHON_ASSIGN(const Frame frame,
                    parseTime(text, session_, column == Column::Length,
                              layout_.units.contains(column) ? layout_.units.at(column) : Unit::Unknown));
    return std::optional(frame);
  }

  Result<Wanted> understand(const TableRow& row) const {
    Wanted wanted;
    wanted.id = cell(row, Column::Id);
    wanted.name = cell(row, Column::Name);
    wanted.set = cell(row, Column::Set);
    wanted.notes = cell(row, Column::Notes);
    OCTAPHON_ASSIGN(const std::optional<Frame> start, time(row, Column::Start));
    OCTAPHON_ASSIGN(const std::optional<Frame> end, time(row, Column::End));
    OCTAPHON_ASSIGN(const std::optional<Frame> length, time(row, Column::Length));
    wanted.hasStart = start.has_value();
    if (!start && !regions_.contains(wanted.id) && !markers_.contains(wanted.id))
      return fail(ErrorCode::BadValue, "", "there is no start");
    wanted.start = start.value_or(0);
    for (const auto& [fact, column] : layout_.facts)
      wanted.facts[fact] = column < row.cells.size() ? row.cells[column] : std::string();
    const std::string kind = foldedName(cell(row, Column::Kind));
    wanted.isMarker = kind.empty() ? !end && !length : kind.starts_with("m") || kind.starts_with("cue");
    if (!wanted.isMarker && start && end && *end < *start)
      return fail(ErrorCode::BadValue, "", "it ends before it starts", "Look at start and end");
    if (!wanted.isMarker) wanted.length = start && end ? *end - *start : length.value_or(0);
    if (!checkedSum(wanted.start, wanted.length))
      return fail(ErrorCode::TooLarge, "", "it ends later than a session can");
    wanted.ink = ink(cell(row, Column::Colour));
    return wanted;
  }

  /// Colours of other programs say nothing here.
  static std::optional<int> ink(const std::string& text) {
    if (text.size() == 1 && text[0] >= '0' && text[0] <= '0' + kInks) return text[0] - '0';
    return std::nullopt;
  }

  Result<> take(const TableRow& row) {
    OCTAPHON_ASSIGN(const Wanted wanted, understand(row));
    if (const auto known = regions_.find(wanted.id); known != regions_.end() && !wanted.id.empty())
      return change(session_.regions[known->second], wanted, row);
    if (!wanted.id.empty() && markers_.contains(wanted.id)) return changeMarker(wanted);
    if (wanted.isMarker)
      addMarkerRow(wanted);
    else
      addRegionRow(wanted);
    return {};
  }

  Result<> change(Region& region, const Wanted& wanted, const TableRow& row) {
    Region changed = region;
    if (wanted.hasStart) changed.start = wanted.start;
    if (!cell(row, Column::End).empty() || !cell(row, Column::Length).empty()) changed.length = wanted.length;
    if (layout_.has(Column::Name)) changed.name = wanted.name;
    if (layout_.has(Column::Colour))
      changed.ink = wanted.ink.value_or(cell(row, Column::Colour).empty() ? 0 : region.ink);
    if (layout_.has(Column::Notes)) changed.notes = wanted.notes;
    setFacts(changed.facts, wanted.facts);
    if (changed == region) {
      ++outcome_.unchanged;
      return {};
    }
    const std::string name = printable(region.name, 60);
    if (region.lock) return fail(ErrorCode::Occupied, name, "the region is locked", "Unlock it first");
    if (region.fixed && changed.length != region.length)
      return fail(ErrorCode::Occupied, name, "the region's length is fixed", "Free its length first");
    region = std::move(changed);
    ++outcome_.regionsChanged;
    return {};
  }

  static void setFacts(Facts& facts, const Facts& wanted) {
    for (const auto& [name, value] : wanted)
      if (value.empty())
        facts.erase(name);
      else
        facts[name] = value;
  }

  Result<> changeMarker(const Wanted& wanted) {
    for (MarkerSet& set : session_.markerSets)
      for (Marker& marker : set.markers) {
        if (marker.id != wanted.id) continue;
        Marker changed = marker;
        if (wanted.hasStart) changed.at = wanted.start;
        if (layout_.has(Column::Name)) changed.name = wanted.name;
        if (layout_.has(Column::Notes)) changed.notes = wanted.notes;
        if (changed == marker) {
          ++outcome_.unchanged;
          return {};
        }
        if (marker.lock)
          return fail(ErrorCode::Occupied, printable(marker.name, 60), "the marker is locked",
                      "Unlock it first");
        marker = std::move(changed);
        ++outcome_.markersChanged;
        return {};
      }
    return {};
  }

  std::string idFor(const Wanted& wanted, const char* kind) {
    return !wanted.id.empty() && maker_.take(wanted.id) ? wanted.id : maker_.next(kind);
  }

  void addRegionRow(const Wanted& wanted) {
    if (!there_.insert({wanted.start, wanted.length, wanted.name}).second) {
      ++outcome_.unchanged;
      return;
    }
    Region region;
    region.id = idFor(wanted, "r");
    region.name = wanted.name;
    region.start = wanted.start;
    region.length = wanted.length;
    region.ink = wanted.ink.value_or(0);
    region.notes = wanted.notes;
    setFacts(region.facts, wanted.facts);
    regions_.emplace(region.id, session_.regions.size());
    session_.regions.push_back(std::move(region));
    ++outcome_.regionsAdded;
  }

  void addMarkerRow(const Wanted& wanted) {
    const std::string setName = wanted.set.empty() ? "Markers" : wanted.set;
    if (!markersThere_.insert({setName, wanted.start, wanted.name}).second) {
      ++outcome_.unchanged;
      return;
    }
    auto set = std::find_if(session_.markerSets.begin(), session_.markerSets.end(),
                            [&](const MarkerSet& s) { return s.name == setName; });
    if (set == session_.markerSets.end()) {
      session_.markerSets.push_back({maker_.next("set"), setName, {}, {}});
      set = std::prev(session_.markerSets.end());
    }
    Marker marker;
    marker.id = idFor(wanted, "m");
    marker.name = wanted.name;
    marker.at = wanted.start;
    marker.notes = wanted.notes;
    markers_.insert(marker.id);
    set->markers.push_back(std::move(marker));
    ++outcome_.markersAdded;
  }

  Session& session_;
  std::string place_;
  IdMaker maker_;
  Layout layout_;
  std::map<std::string, std::size_t> regions_;
  std::set<std::string> markers_;
  std::set<std::tuple<Frame, Frame, std::string>> there_;
  std::set<std::tuple<std::string, Frame, std::string>> markersThere_;
  TableOutcome outcome_;
};

class TableWriter {
 public:
  TableWriter(const Session& session, TableTimes times) : session_(session), times_(times) {}

  std::string write() {
    for (std::size_t i = 0; i < kColumnNames.size(); ++i)
      text_ += std::string(i == 0 ? "" : ",") + kColumnNames[i];
    const std::vector<std::string> facts = factNames(session_);
    for (const std::string& fact : facts) text_ += "," + tableCell("fact:" + fact);
    text_ += '\n';
    std::vector<const Region*> regions;
    for (const Region& region : session_.regions) regions.push_back(&region);
    std::sort(regions.begin(), regions.end(), [](const Region* a, const Region* b) {
      return std::tuple(a->start, -a->length, std::string_view(a->id)) <
             std::tuple(b->start, -b->length, std::string_view(b->id));
    });
    for (const Region* r : regions) {
      std::vector<std::string> cells{r->id,      "region",        r->name, place(r->start), place(r->end()),
                                     length(*r), inkText(r->ink), "",      r->notes};
      for (const std::string& fact : facts) {
        const auto found = r->facts.find(fact);
        cells.push_back(found == r->facts.end() ? std::string() : found->second);
      }
      row(cells);
    }
    for (const MarkerSet& set : session_.markerSets)
      for (const Marker& m : set.markers)
        row({m.id, "marker", m.name, place(m.at), "", "", "", set.name, m.notes});
    return std::move(text_);
  }

 private:
  void row(const std::vector<std::string>& cells) {
    for (std::size_t i = 0; i < cells.size(); ++i) text_ += (i == 0 ? "" : ",") + tableCell(cells[i]);
    text_ += '\n';
  }
  static std::string inkText(int ink) { return ink == 0 ? std::string() : std::to_string(ink); }
  Frame picture(Frame frame) const { return pictureFrameAt(frame, session_.pictureRate, session_.rate); }
  std::string place(Frame frame) const {
    if (times_ == TableTimes::Frames) return std::to_string(frame);
    if (times_ == TableTimes::Timecode)
      return timecodeText(session_.startPicture + picture(frame), session_.pictureRate);
    return tableTime(frame, session_.rate);
  }
  std::string length(const Region& region) const {
    if (times_ == TableTimes::Frames) return std::to_string(region.length);
    if (times_ == TableTimes::Timecode)
      return timecodeText(picture(region.end()) - picture(region.start), session_.pictureRate);
    return tableTime(region.length, session_.rate);
  }

  const Session& session_;
  TableTimes times_;
  std::string text_;
};

}  // namespace

std::string tableTime(Frame frames, int rate) {
  const WideFrame micro = (WideFrame{frames} * 2'000'000 + rate) / (WideFrame{rate} * 2);
  const auto whole = static_cast<long long>(micro / 1'000'000);
  char text[64];
  std::snprintf(text, sizeof text, "%lld:%02lld:%02lld.%06lld", whole / 3600, whole / 60 % 60, whole % 60,
                static_cast<long long>(micro % 1'000'000));
  return text;
}

Result<Frame> parseTableTime(std::string_view text, const Session& session, bool isLength) {
  return parseTime(text, session, isLength, Unit::Unknown);
}

std::string writeRegionTable(const Session& session, TableTimes times) {
  return TableWriter(session, times).write();
}

Result<TableOutcome> readRegionTable(Session& session, std::string_view bytes, const std::string& place) {
  return TableReader(session, place).read(bytes);
}

}  // namespace octaphon
