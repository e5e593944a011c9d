#include "plan/sheet.h"

#include <algorithm>

#include "base/decibels.h"
#include "base/pending_file.h"
#include "base/unicode.h"

namespace octaphon {

std::string_view rowStateName(RowState state) {
  switch (state) {
    case RowState::ToMake: return "to-make";
    case RowState::UpToDate: return "up-to-date";
    case RowState::Stale: return "stale";
    case RowState::Changed: return "changed";
    case RowState::Renamed: return "renamed";
    case RowState::OlderEngine: return "older-engine";
    case RowState::HeldBack: return "held-back";
    case RowState::Foreign: return "foreign";
    case RowState::Fault: return "fault";
  }
  return {};
}

std::string_view rowStateText(RowState state) {
  switch (state) {
    case RowState::ToMake: return "to make";
    case RowState::UpToDate: return "up to date";
    case RowState::OlderEngine: return "older engine";
    case RowState::HeldBack: return "held back";
    default: return rowStateName(state);
  }
}

bool Row::isUnfinished() const { return isTemporaryName(std::string_view(from).substr(from.rfind('/') + 1)); }

std::vector<Remark> Sheet::remarksOf(const Row& row) const {
  std::vector<Remark> remarks = soundOf(row).remarks;
  remarks.insert(remarks.end(), row.remarks.begin(), row.remarks.end());
  return remarks;
}

bool Sheet::isRemarkable(const Row& row) const {
  const auto isAny = [&](const std::vector<Remark>& remarks) {
    return std::any_of(remarks.begin(), remarks.end(), [&](const Remark& remark) {
      return remark.severity != Severity::Note && acceptedOf(row, remark) == nullptr;
    });
  };
  return isAny(soundOf(row).remarks) || isAny(row.remarks);
}

static const AcceptedRemark* acceptedAmong(const Brief& brief, const std::vector<std::uint32_t>& accepted,
                                           const Remark& remark) {
  if (remark.severity == Severity::Fault) return nullptr;
  for (const std::uint32_t i : accepted)
    if (brief.accepted[i].code == remarkName(remark.code)) return &brief.accepted[i];
  return nullptr;
}

const AcceptedRemark* Sheet::acceptedOf(const Row& row, const Remark& remark) const {
  return row.accepted.empty() ? nullptr : acceptedAmong(briefOf(row).brief, row.accepted, remark);
}

const AcceptedRemark* Sheet::acceptedOf(const PlannedBrief& brief, const Remark& remark) const {
  return acceptedAmong(brief.brief, brief.accepted, remark);
}

const RowException* Sheet::exceptionOf(const Row& row) const {
  return row.exception ? &briefOf(row).brief.rowExceptions[*row.exception] : nullptr;
}

const Remark* Sheet::faultOf(const Row& row) const {
  for (const std::vector<Remark>* remarks : {&soundOf(row).remarks, &row.remarks})
    for (const Remark& remark : *remarks)
      if (remark.severity == Severity::Fault) return &remark;
  return nullptr;
}

std::string Sheet::spanKeyOf(std::size_t brief, std::size_t span) const {
  const PlannedBrief& planned = briefs[brief];
  const std::string key = planned.brief.id + "/" + planned.spans[span].key();
  return planned.isOwn(span) ? key + "/" + planned.sources[*planned.ownSources[span]].key() : key;
}

const StickyNumbers& PlannedBrief::kept() const {
  static const StickyNumbers kNone;
  return fixed == nullptr || countsAnew ? kNone : *fixed;
}

std::size_t PlannedBrief::spanCount() const {
  return static_cast<std::size_t>(
      std::count_if(ownSources.begin(), ownSources.end(), [](const auto& own) { return !own; }));
}

const SpanEnds& PlannedBrief::endsOf(std::size_t span, int rate) const {
  const SpanEnds& first = ends[span];
  return first.extent.rate == rate ? first : endsAt.at(rate)[span];
}

bool PlannedBrief::isPair(std::size_t span, std::size_t source) const {
  const bool isTogether = sources[source].kind == PlannedSource::Kind::Together;
  if (isTogether ? !printsTogether : !printsEach) return false;
  if (isOwn(span)) return *ownSources[span] == source;
  for (std::size_t own = span + 1; own < spans.size() && isOwn(own); ++own)
    if (*ownSources[own] == source) return false;
  if (spans[span].kind == PlannedSpan::Kind::Extent) return spans[span].id == sources[source].key();
  if (sources[source].isEverywhere) return true;
  const auto& own = asked[span];
  return std::find(own.begin(), own.end(), source) != own.end();
}

std::size_t PlannedBrief::pairCount() const {
  std::size_t pairs = 0;
  for (std::size_t span = 0; span < spans.size(); ++span)
    for (std::size_t source = 0; source < sources.size(); ++source) pairs += isPair(span, source) ? 1 : 0;
  return pairs;
}

std::span<const TappedSound> Sheet::soundsBeside(const TappedSound& sound) const {
  const auto before = [](const TappedSound& a, const TappedSound& b) {
    return std::pair(a.brief, a.span) < std::pair(b.brief, b.span);
  };
  const auto [first, last] = std::equal_range(sounds.begin(), sounds.end(), sound, before);
  return {first, last};
}

const Row& Sheet::leadOf(const TappedSound& sound) const {
  const auto number = static_cast<std::uint32_t>(&sound - sounds.data());
  return *std::partition_point(rows.begin(), rows.end(), [&](const Row& row) { return row.sound < number; });
}

Frame Sheet::tailOf(const Row& row) const {
  const RungOut& heard = briefOf(row).rungOut[soundOf(row).span];
  return heard.isKept ? heard.tail : endsOf(row).limit;
}

Frame Sheet::shownEndOf(const Row& row) const {
  if (!row.isMeasured) return endOf(row);
  return row.start + atRate(row.extent.leadIn + row.extent.body, row.rate, rate);
}

/// What is known of a tail that rings out.
static std::string rungOutText(const Sheet& sheet, const Row& row) {
  const Ends& asked = sheet.endsOf(row).asked;
  const RungOut& heard = sheet.briefOf(row).rungOut[sheet.soundOf(row).span];
  const std::string to = decibelText(asked.thresholdDb) + (asked.relative ? " dB under its peak" : " dBFS");
  if (row.isMeasured || !heard.isKept)
    return "It rings out to " + to + ", which is heard when it is made, " +
           timeText(framesOf(asked.limitSeconds, sheet.rate), sheet.rate) + " at most.";
  const std::string left = "its last 10 ms are at " + decibelText(heard.leftDb) + " dBFS.";
  if (heard.byLimit)
    return "It was stopped by its limit after " + timeText(heard.tail, sheet.rate) + "; " + left;
  return "It rings out to " + to + ": " + timeText(heard.tail, sheet.rate) +
         " after the span's end all sources are quieter" + (heard.tail == 0 ? "." : "; " + left);
}

std::string Sheet::endsText(const Row& row) const {
  const auto part = [&](const char* name, Frame frames) {
    return frames == 0 ? std::string() : name + timeText(frames, row.rate) + ", ";
  };
  std::string text = part("lead-in ", row.extent.leadIn) + part("body ", row.extent.body) +
                     (row.isMeasured ? "" : part("tail ", row.extent.tail));
  if (!text.empty()) text.replace(text.size() - 2, 2, ".");
  if (spanOf(row).ringsOut) text += (text.empty() ? "" : " ") + rungOutText(*this, row);
  if (endsOf(row).asked.trimDb && row.isMeasured)
    text +=
        " What is under " + decibelText(*endsOf(row).asked.trimDb) + " dBFS at head and end is trimmed off.";
  return text;
}

FileForm Sheet::formOf(const Row& row) const {
  return {row.encoding, row.channels,
          row.rate,     briefOf(row).outputs[row.output].coding,
          row.isLarge,  sourceOf(row).kind == PlannedSource::Kind::Together};
}

/// Where a place of the session is in a file, in its frames. What lies in a lap stands in the one that is
/// kept; else what moves the file's first frame moves it.
static Frame placeIn(const Sheet& sheet, const Row& row, const Extent& extent, Frame at) {
  const SpanLoopPlan& loop = sheet.endsOf(row).loop;
  const PlannedSpan& span = sheet.spanOf(row);
  if (!loop.isThere() || loop.isSearched()) return atRate(at, sheet.rate, row.rate) - extent.start;
  if (at < span.start && extent.leadIn > 0) return atRate(at - span.first(), sheet.rate, row.rate);
  return extent.leadIn + atRate(at - span.start, sheet.rate, row.rate);
}

std::vector<SheetMark> Sheet::marksIn(const Row& row, const Extent& extent) const {
  std::vector<SheetMark> found;
  const PlannedSpan& span = spanOf(row);
  // What lies before or behind the span is of other sounds, where only what begins here counts.
  const bool isAllHeard = briefOf(row).brief.heard.counts == Counts::EverythingHeard;
  const Frame first = isAllHeard ? span.first() : span.start, last = isAllHeard ? span.last() : span.end();
  const auto from = std::lower_bound(marks.begin(), marks.end(), first,
                                     [](const SheetMark& mark, Frame at) { return mark.at < at; });
  for (auto mark = from; mark != marks.end() && mark->at < last; ++mark) {
    const bool isRegion = !mark->region.empty();
    if (mark->at + mark->length > last) continue;
    if (isRegion && span.kind == PlannedSpan::Kind::Region && mark->region == span.id) continue;
    const Frame at = placeIn(*this, row, extent, mark->at);
    const Frame end = isRegion ? placeIn(*this, row, extent, mark->at + mark->length) : at;
    if (at >= 0 && at < extent.frames() && end >= at && end <= extent.frames())
      found.push_back({at, mark->name, end - at, mark->region});
  }
  return found;
}

std::string Sheet::lengthText(const Row& row) const {
  if (!row.isMeasured) return timeText(row.frames(), row.rate);
  if (row.least > 0) return "at least " + timeText(row.least, row.rate);
  return "at most " + timeText(row.frames(), row.rate);
}

std::string Sheet::keyOf(const Row& row) const {
  const PlannedBrief& brief = briefOf(row);
  return brief.brief.id + "/" + pairKeyOf(soundOf(row)) + "/" + brief.outputKeys[row.output] + "/" +
         (row.part > 0 ? channelName(row.folded, row.part) : "all");
}

std::string Sheet::noiseKeyOf(const Row& row) const {
  return briefOf(row).brief.id + "/" + pairKeyOf(soundOf(row)) + "/wav/" +
         (row.part > 0 ? channelName(row.folded, row.part) : "all");
}

std::string Sheet::pairKeyOf(const TappedSound& sound) const {
  return briefs[sound.brief].spans[sound.span].key() + "/" + briefs[sound.brief].sources[sound.source].key();
}

std::optional<std::size_t> Sheet::find(std::string_view key) const {
  if (index) return index->find(*this, key);
  for (const PlannedBrief& brief : briefs) {
    const std::string& id = brief.brief.id;
    if (!key.starts_with(id) || key.substr(id.size(), 1) != "/") continue;
    for (std::size_t row = brief.firstRow; row < brief.firstRow + brief.rowCount; ++row)
      if (keyOf(rows[row]) == key) return row;
  }
  return std::nullopt;
}

bool hasSameRows(const Sheet& before, const Sheet& after) {
  if (before.rows.size() != after.rows.size() || before.sounds.size() != after.sounds.size()) return false;
  for (std::size_t i = 0; i < before.rows.size(); ++i) {
    const Row &a = before.rows[i], &b = after.rows[i];
    if (a.output != b.output || a.part != b.part || a.sound != b.sound) return false;
  }
  const auto isSame = [&](const TappedSound& a, const TappedSound& b) {
    const PlannedBrief &was = before.briefs[a.brief], &is = after.briefs[b.brief];
    const PlannedSpan &span = was.spans[a.span], &spanNow = is.spans[b.span];
    const PlannedSource &source = was.sources[a.source], &sourceNow = is.sources[b.source];
    return was.brief.id == is.brief.id && span.kind == spanNow.kind && span.id == spanNow.id &&
           source.kind == sourceNow.kind && source.id == sourceNow.id;
  };
  return std::equal(before.sounds.begin(), before.sounds.end(), after.sounds.begin(), isSame);
}

bool isMakeable(const Sheet& sheet, const Row& row) {
  if (sheet.briefOf(row).isStopped) return false;
  if (row.state == RowState::ToMake || row.state == RowState::Renamed) return true;
  return row.state == RowState::Stale && sheet.briefOf(row).brief.delivery.existing == Existing::Replace;
}

bool mayBeMadeAgain(const Sheet& sheet, const Row& row) {
  if (sheet.briefOf(row).isStopped) return false;
  switch (row.state) {
    case RowState::ToMake:
    case RowState::Renamed:
    case RowState::UpToDate:
    case RowState::OlderEngine:
    case RowState::Stale: return true;
    default: return false;
  }
}

SheetCounts countRows(const Sheet& sheet) {
  SheetCounts counts;
  counts.files = sheet.rows.size();
  for (const SheetFolder& folder : sheet.folders) counts.leftOver += folder.leftOver.size();
  for (const Row& row : sheet.rows) {
    switch (row.state) {
      case RowState::ToMake: ++counts.toMake; break;
      case RowState::UpToDate: ++counts.upToDate; break;
      case RowState::Stale: ++counts.stale; break;
      case RowState::Changed: ++counts.changed; break;
      case RowState::Renamed: ++counts.renamed; break;
      case RowState::OlderEngine: ++counts.olderEngine; break;
      case RowState::HeldBack: ++counts.heldBack; break;
      case RowState::Foreign: ++counts.foreign; break;
      case RowState::Fault: ++counts.fault; break;
    }
    if (sheet.isRemarkable(row)) ++counts.remarks;
    if (mayBeMadeAgain(sheet, row)) ++counts.again;
    if (!isMakeable(sheet, row)) continue;
    ++counts.makeable;
    if (row.state != RowState::Renamed) counts.bytes += dataBytes(sheet.formOf(row), row.frames());
  }
  return counts;
}

/// `6 regions`, `2 clip sets`, `8 spans` where there are several kinds.
static std::string spansText(const PlannedBrief& brief) {
  const auto isAll = [&](PlannedSpan::Kind kind) {
    return std::all_of(brief.spans.begin(), brief.spans.end(),
                       [&](const PlannedSpan& span) { return span.kind == kind; });
  };
  const std::size_t count = brief.spanCount();
  if (isAll(PlannedSpan::Kind::Region)) return counted(count, "region");
  if (isAll(PlannedSpan::Kind::ClipSet)) return counted(count, "clip set");
  if (isAll(PlannedSpan::Kind::Clip)) return counted(count, "clip");
  return counted(count, "span");
}

/// `6 regions × 4 sources`; where not every span is printed of every source, how many pairs are.
static std::string pairsText(const PlannedBrief& brief) {
  const std::size_t sources = brief.sources.size() - (brief.printsTogether && brief.printsEach ? 1 : 0);
  if (!brief.printsEach) return spansText(brief) + ", all sources in one file";
  const std::string product = spansText(brief) + " × " + counted(sources, "source");
  const std::size_t pairs = brief.pairCount() - (brief.printsTogether ? brief.spanCount() : 0);
  if (pairs == brief.spanCount() * sources) return product;
  return counted(pairs, "pair") + " of " + spansText(brief) + " and " + counted(sources, "source");
}

/// ` × 2 outputs`; empty for one. What is split has more files, which its channels say.
static std::string outputsText(const PlannedBrief& brief) {
  const bool isSplit = std::any_of(brief.outputs.begin(), brief.outputs.end(),
                                   [](const Output& output) { return output.split; });
  const auto together = static_cast<std::size_t>(std::count_if(
      brief.outputs.begin(), brief.outputs.end(), [](const Output& output) { return output.together; }));
  const std::size_t outputs = brief.outputs.size() - (brief.printsEach ? together : 0);
  std::string text = outputs == 1 ? std::string() : " × " + counted(outputs, "output");
  if (brief.printsEach && together > 0) text += ", and " + counted(together, "file") + " of all sources";
  return isSplit ? text + ", a file for each channel" : text;
}

std::string countText(const Sheet& sheet) {
  const auto held = static_cast<std::size_t>(
      std::count_if(sheet.rows.begin(), sheet.rows.end(), [](const Row& row) { return row.isHeldBack; }));
  std::string text = counted(sheet.rows.size() - held, "file");
  std::size_t empty = 0;
  std::size_t muted = 0;
  for (const PlannedBrief& brief : sheet.briefs) {
    empty += brief.leftOutEmpty;
    muted += brief.leftOutMuted;
  }
  if (sheet.briefs.size() == 1)
    text += " = " + pairsText(sheet.briefs[0]) + outputsText(sheet.briefs[0]);
  else if (sheet.briefs.size() > 1)
    text += " from " + counted(sheet.briefs.size(), "brief");
  std::vector<std::string> less;
  if (empty > 0) less.push_back(std::to_string(empty) + " without clips");
  if (muted > 0) less.push_back(std::to_string(muted) + " muted");
  if (held > 0) less.push_back(std::to_string(held) + " held back");
  if (!less.empty()) text += ", less " + listed(less);
  return text;
}

std::string foldText(int from, int to) {
  if (from == to) return {};
  const std::string text = channelText(from) + " to " + channelText(to) + ": ";
  if (from == 1) return text + "on all channels as it is";
  std::vector<std::string> parts;
  if (to < 6 && from >= 6) parts.push_back("C into L and R at −3.01 dB, LFE left out");
  if (to <= 2 && from >= 4) parts.push_back("surrounds into the front at −3.01 dB");
  if (to == 4 && from == 8) parts.push_back("sides and backs into one pair at −3.01 dB");
  if (to == 6 && from == 8) parts.push_back("sides and backs into one pair at −3.01 dB");
  if (to == 1) parts.push_back("half of each side");
  if (parts.empty()) parts.push_back("each to its own place");
  return text + listed(parts) + " (ITU-R BS.775)";
}

std::string channelName(int channels, int part) {
  static const std::map<int, std::vector<std::string>> kNames{
      {1, {"M"}},
      {2, {"L", "R"}},
      {4, {"L", "R", "Ls", "Rs"}},
      {6, {"L", "R", "C", "LFE", "Ls", "Rs"}},
      {8, {"L", "R", "C", "LFE", "Lb", "Rb", "Ls", "Rs"}}};
  const auto found = kNames.find(channels);
  return found == kNames.end() ? std::to_string(part) : found->second.at(static_cast<std::size_t>(part) - 1);
}

}  // namespace octaphon
