#include "plan/row_values.h"

#include <algorithm>
#include <map>

#include "base/unicode.h"
#include "naming/file_name.h"
#include "routing/set_extent.h"

namespace octaphon {
namespace {

/// A path without its first parts; the last one stays.
std::string_view withoutLevels(std::string_view path, int levels) {
  for (; levels > 0; --levels) {
    const std::size_t slash = path.find('/');
    if (slash == std::string_view::npos) break;
    path.remove_prefix(slash + 1);
  }
  return path;
}

/// A number as it is written in a name, with digits where they are asked for.
std::string withDigits(std::string_view number, int digits) {
  if (digits <= 0 || number.empty()) return std::string(number);
  while (number.size() > static_cast<std::size_t>(digits) && number[0] == '0') number.remove_prefix(1);
  const auto wanted = static_cast<std::size_t>(digits);
  return std::string(wanted - std::min(wanted, number.size()), '0') + std::string(number);
}

/// `1-02.500`, with hours in front where there are any or `isLong`.
std::string timeInName(Frame frames, int rate, bool isLong) {
  const Frame ms = atRate(std::max<Frame>(0, frames), rate, 1000);
  char text[64];
  const auto n = [](Frame value) { return static_cast<long long>(value); };
  if (isLong)
    std::snprintf(text, sizeof text, "%lld-%02lld-%02lld.%03lld", n(ms / 3'600'000), n(ms / 60'000 % 60),
                  n(ms / 1000 % 60), n(ms % 1000));
  else
    std::snprintf(text, sizeof text, "%lld-%02lld.%03lld", n(ms / 60'000), n(ms / 1000 % 60), n(ms % 1000));
  return text;
}

std::string secondsText(Frame frames, int rate) {
  return plainNumber(static_cast<double>(frames) / static_cast<double>(rate));
}

}  // namespace

RowValues::RowValues(const Sheet& sheet, std::size_t brief, const Session& session, const TrackTree& tree,
                     std::span<const Template> formats, std::string separator,
                     const Abbreviations& abbreviations, TemplateUse use, std::optional<std::size_t> only)
    : sheet_(sheet),
      brief_(sheet.briefs[brief]),
      session_(session),
      tree_(tree),
      abbreviations_(abbreviations),
      separator_(std::move(separator)),
      use_(use),
      tempo_(session.tempo, session.rate) {
  if (only) only_ = &sheet.soundOf(sheet.rows[brief_.firstRow + *only]);
  for (const Region& region : session.regions) regions_.emplace(region.id, &region);
  for (const ClipSet& set : session.clipSets) sets_.emplace(set.id, &set);
  countSounds();
  if (std::any_of(formats.begin(), formats.end(),
                  [](const Template& format) { return format.uses(NameField::Take); }))
    countTakes();
  for (const Template& format : formats)
    format.forEachField(
        [&](const TemplatePart& field) { fill(field, columns_.emplace_back(&field, Column()).second); });
}

/// A value that is no path has no folders in a name.
std::string RowValues::plain(std::string text) const {
  if (use_ == TemplateUse::Name) std::replace(text.begin(), text.end(), '/', '_');
  return text;
}

RowValues::Scope RowValues::scopeOf(NameField field) {
  switch (field) {
    case NameField::Session:
    case NameField::Author:
    case NameField::Brief:
    case NameField::EditionDate:
    case NameField::EditionVersion:
    case NameField::EditionUser:
    case NameField::EditionMachine: return Scope::Brief;
    case NameField::Region:
    case NameField::RegionBase:
    case NameField::RegionLast:
    case NameField::RegionPath:
    case NameField::RegionLevel:
    case NameField::RegionNumber:
    case NameField::RegionTags:
    case NameField::RegionFact:
    case NameField::RegionNotes:
    case NameField::ClipSet:
    case NameField::Take:
    case NameField::Marker:
    case NameField::Tempo:
    case NameField::Metre:
    case NameField::Bars:
    case NameField::Start: return Scope::Span;
    case NameField::Source:
    case NameField::SourceNumber:
    case NameField::Track:
    case NameField::TrackNumber:
    case NameField::TrackTags:
    case NameField::Group:
    case NameField::Groups:
    case NameField::GroupLevel: return Scope::Source;
    case NameField::Number:
    case NameField::NumberInRegion:
    case NameField::NumberOfSource:
    case NameField::NameNumber:
    case NameField::Length:
    case NameField::Channels:
    case NameField::Channel:
    case NameField::Rate:
    case NameField::Depth:
    case NameField::Format: return Scope::Row;
  }
  return Scope::Row;
}

void RowValues::fill(const TemplatePart& field, Column& column) {
  column.scope = scopeOf(field.field.field);
  if (column.scope == Scope::Brief) add(field, column, ofBrief(field.field));
  const auto isWanted = [&](std::size_t i, auto TappedSound::*place) {
    return only_ == nullptr || only_->*place == i;
  };
  if (column.scope == Scope::Span)
    for (std::size_t i = 0; i < brief_.spans.size(); ++i)
      add(field, column, isWanted(i, &TappedSound::span) ? ofSpan(field.field, i) : std::string());
  if (column.scope == Scope::Source)
    for (std::size_t i = 0; i < brief_.sources.size(); ++i)
      add(field, column, isWanted(i, &TappedSound::source) ? ofSource(field.field, i) : std::string());
}

void RowValues::add(const TemplatePart& field, Column& column, std::string value) const {
  bool isLost = false;
  column.texts.push_back(filteredValue(field, std::move(value), &abbreviations_, isLost));
  column.isLost.push_back(isLost ? 1 : 0);
}

const RowValues::Column& RowValues::columnOf(const TemplatePart& field) const {
  return std::find_if(columns_.begin(), columns_.end(), [&](const auto& one) { return one.first == &field; })
      ->second;
}

bool RowValues::OfRow::append(const TemplatePart& field, std::string& text, bool& isLost) const {
  const Column& column = all_.columnOf(field);
  if (column.scope == Scope::Row) {
    const std::string value =
        filteredValue(field, all_.ofRow(field.field, row_), &all_.abbreviations_, isLost);
    text += value;
    return !value.empty();
  }
  const TappedSound& sound = all_.sheet_.soundOf(all_.sheet_.rows[all_.brief_.firstRow + row_]);
  const std::size_t place = column.scope == Scope::Brief  ? 0
                            : column.scope == Scope::Span ? sound.span
                                                          : sound.source;
  text += column.texts[place];
  isLost = isLost || column.isLost[place] != 0;
  return !column.texts[place].empty();
}

// --- counting

void RowValues::countSounds() {
  spanCounts_.assign(brief_.spans.size(), 0);
  sourceCounts_.assign(brief_.sources.size(), 0);
  if (brief_.rowCount > 0) {
    const std::size_t first = sheet_.rows[brief_.firstRow].sound;
    const std::size_t last = sheet_.rows[brief_.firstRow + brief_.rowCount - 1].sound;
    sounds_ = static_cast<long>(last - first) + 1;
    for (std::size_t i = first; i <= last; ++i) {
      ++spanCounts_[brief_.originals[sheet_.sounds[i].span]];
      ++sourceCounts_[sheet_.sounds[i].source];
    }
    mostInSpan_ = *std::max_element(spanCounts_.begin(), spanCounts_.end());
    mostOfSource_ = *std::max_element(sourceCounts_.begin(), sourceCounts_.end());
  }
  const long delivered =
      std::count_if(sourceCounts_.begin(), sourceCounts_.end(), [](long n) { return n > 0; });
  sourceNumbers_.resize(brief_.sources.size());
  for (std::size_t i = 0; i < brief_.places.size(); ++i)
    sourceNumbers_[sheet_.sounds[sheet_.rows[brief_.firstRow].sound + i].source] =
        placeOf(Counter::Sources, brief_.places[i][Counter::Sources], delivered, delivered);
}

/// Digits are those of the first delivery, once there was one.
NumberPlace RowValues::placeOf(Counter counter, std::uint32_t place, long count, long most) const {
  const std::uint32_t first = brief_.kept().most[counter];
  return {place, count, first > 0 ? static_cast<long>(first) : most};
}

/// Regions of one base name, in their order of time; clip sets for themselves.
template <class Thing, class StartOf>
static std::unordered_map<std::string_view, NumberPlace> takesOf(const std::vector<Thing>& things,
                                                                 const StartOf& startOf) {
  std::map<std::string, std::vector<std::pair<Frame, const Thing*>>> byBase;
  for (const Thing& thing : things)
    byBase[foldedName(baseName(thing.name))].emplace_back(startOf(thing), &thing);
  long most = 0;
  for (const auto& [base, takes] : byBase) most = std::max(most, static_cast<long>(takes.size()));
  std::unordered_map<std::string_view, NumberPlace> places;
  for (auto& [base, takes] : byBase) {
    std::stable_sort(takes.begin(), takes.end(),
                     [](const auto& a, const auto& b) { return a.first < b.first; });
    for (std::size_t i = 0; i < takes.size(); ++i)
      places[takes[i].second->id] = {static_cast<long>(i) + 1, static_cast<long>(takes.size()), most};
  }
  return places;
}

void RowValues::countTakes() {
  regionTakes_ = takesOf(session_.regions.all(), [](const Region& region) { return region.start; });
  if (session_.clipSets.empty()) return;
  std::unordered_map<std::string_view, std::pair<Strip, const Clip*>> clips;
  for (const Strip strip : tree_.order())
    for (const Clip& clip : session_.tracks[strip.track()].clips)
      clips.emplace(clip.id, std::pair(strip, &clip));
  setTakes_ = takesOf(session_.clipSets.all(), [&](const ClipSet& set) {
    SetExtent extent(tree_);
    for (const std::string& id : set.clips)
      if (const auto found = clips.find(id); found != clips.end())
        extent.add(found->second.first, *found->second.second);
    return extent.of(set).value_or(TimeSpan{}).start;
  });
}

// --- the brief

std::string RowValues::ofBrief(const FieldUse& use) const {
  const Edition& edition = brief_.edition;
  switch (use.field) {
    case NameField::Session: return plain(sheet_.session);
    case NameField::Author: return plain(session_.author);
    case NameField::Brief: return plain(brief_.brief.name);
    case NameField::EditionDate:
      return plain(dateAs(edition.date, use.argumentOr("yyyy-MM-dd")).value_or(std::string()));
    case NameField::EditionVersion: return withDigits(std::to_string(edition.version), use.number.digits);
    case NameField::EditionUser: return plain(edition.user);
    case NameField::EditionMachine: return plain(edition.machine);
    default: return {};
  }
}

// --- spans

std::string RowValues::joined(const std::vector<std::string>& parts, const FieldUse& use) const {
  const std::string_view separator = use.argumentOr(separator_);
  std::string text;
  for (const std::string& part : parts) {
    if (!text.empty()) text += separator;
    text += part;
  }
  return text;
}

std::string RowValues::pathText(const std::string& path, const FieldUse& use) const {
  return path.empty() ? std::string() : joined(pathParts(path), use);
}

std::string RowValues::ofSpan(const FieldUse& use, std::size_t index) const {
  const PlannedSpan& span = brief_.spans[index];
  switch (use.field) {
    case NameField::Take: {
      static const std::unordered_map<std::string_view, NumberPlace> kNone;
      const auto& takes = span.kind == PlannedSpan::Kind::Region    ? regionTakes_
                          : span.kind == PlannedSpan::Kind::ClipSet ? setTakes_
                                                                    : kNone;
      const auto found = takes.find(span.id);
      return found != takes.end() ? numberText(found->second, use.number) : std::string();
    }
    case NameField::Tempo:
    case NameField::Metre:
    case NameField::Bars:
    case NameField::Start:
    case NameField::Marker: return ofTime(use, span);
    default: return ofRegion(use, span);
  }
}

std::string RowValues::ofRegion(const FieldUse& use, const PlannedSpan& span) const {
  static const std::vector<std::string> kNone;
  const Region* region = nullptr;
  const ClipSet* set = nullptr;
  if (const auto found = regions_.find(span.id);
      span.kind == PlannedSpan::Kind::Region && found != regions_.end())
    region = found->second;
  if (const auto found = sets_.find(span.id); span.kind == PlannedSpan::Kind::ClipSet && found != sets_.end())
    set = found->second;
  const int skipped = region != nullptr ? region->skipLevels : set != nullptr ? set->skipLevels : 0;
  const bool isPath = region != nullptr || set != nullptr;
  const std::string name = isPath ? std::string(withoutLevels(span.name, skipped)) : plain(span.name);
  switch (use.field) {
    case NameField::Region: return pathText(name, use);
    case NameField::RegionBase: return pathText(baseName(name), use);
    case NameField::RegionLast: return std::string(lastPart(name));
    case NameField::RegionPath: {
      const std::size_t last = lastPart(name).size();
      return last == name.size() ? std::string() : pathText(name.substr(0, name.size() - last - 1), use);
    }
    case NameField::RegionLevel: {
      const std::vector<std::string> parts = pathParts(name);
      const auto level = levelIndex(parts.size(), use.level);
      return level ? parts[*level] : std::string();
    }
    case NameField::RegionNumber: return withDigits(numberAtEnd(name), use.number.digits);
    case NameField::RegionTags:
      return plain(joined(region != nullptr ? region->tags : set != nullptr ? set->tags : kNone, use));
    case NameField::RegionFact: {
      if (!isPath || !use.argument) return {};
      const Facts facts = session_.factsOf(span.name, region != nullptr ? region->facts : set->facts);
      const auto found = facts.find(*use.argument);
      return found == facts.end() ? std::string() : plain(found->second);
    }
    case NameField::RegionNotes:
      return region != nullptr ? region->notes : set != nullptr ? set->notes : std::string();
    case NameField::ClipSet: return set != nullptr ? pathText(name, use) : std::string();
    default: return {};
  }
}

std::string RowValues::ofTime(const FieldUse& use, const PlannedSpan& span) const {
  if (use.field == NameField::Start) return startText(use, span.start);
  if (use.field == NameField::Marker) return markerBefore(use, span.start);
  if (tempo_.empty()) return {};
  const auto after = std::upper_bound(tempo_.points().begin(), tempo_.points().end(), span.start,
                                      [](Frame at, const TempoPoint& point) { return at < point.at; });
  const TempoPoint& point = after == tempo_.points().begin() ? *after : *(after - 1);
  switch (use.field) {
    case NameField::Tempo: return plainNumber(point.bpm);
    case NameField::Metre: return std::to_string(point.beats) + "-" + std::to_string(point.unit);
    case NameField::Bars: return plainNumber(tempo_.beatsBetween(span.start, span.end()) / point.beats);
    default: return {};
  }
}

std::string RowValues::startText(const FieldUse& use, Frame start) const {
  const std::string_view unit = use.argumentOr("time");
  if (unit == "seconds") return secondsText(start, session_.rate);
  if (unit == "frames") return std::to_string(start);
  if (unit == "bars") {
    if (tempo_.empty()) return {};
    const MusicalPosition at = tempo_.positionAt(start);
    return std::to_string(at.bar) + "." + std::to_string(at.beat);
  }
  if (unit == "timecode") {
    const PictureRate& picture = session_.pictureRate;
    const Frame day = picturesADay(picture);
    std::string text =
        timecodeText((session_.startPicture + pictureFrameAt(start, picture, session_.rate)) % day, picture);
    std::replace_if(
        text.begin(), text.end(), [](char c) { return c == ':' || c == ';'; }, '-');
    return text;
  }
  return timeInName(start, session_.rate, true);
}

std::string RowValues::markerBefore(const FieldUse& use, Frame start) const {
  const Marker* last = nullptr;
  for (const MarkerSet& set : session_.markerSets) {
    if (use.argument && foldedName(set.name) != foldedName(*use.argument)) continue;
    for (const Marker& marker : set.markers)
      if (marker.at <= start && (last == nullptr || marker.at >= last->at)) last = &marker;
  }
  return last == nullptr ? std::string() : plain(last->name);
}

// --- sources

/// From main down, without those that names pass over.
std::vector<std::string> RowValues::groupsOf(const PlannedSource& source) const {
  std::vector<std::string> groups;
  if (source.track.isMain()) return groups;
  for (Strip up = tree_.parent(source.track); !up.isMain(); up = tree_.parent(up))
    if (const Track& group = session_.tracks[up.track()]; !group.skipInNames)
      groups.insert(groups.begin(), plain(group.name));
  return groups;
}

std::string RowValues::ofSource(const FieldUse& use, std::size_t index) const {
  const PlannedSource& source = brief_.sources[index];
  const Track* track = source.track.isMain() ? nullptr : &session_.tracks[source.track.track()];
  const bool isTrack = source.kind == PlannedSource::Kind::Track;
  switch (use.field) {
    case NameField::Source: return plain(source.name);
    case NameField::SourceNumber: return numberText(sourceNumbers_[index], use.number);
    case NameField::Track: return isTrack ? plain(source.name) : std::string();
    case NameField::TrackNumber: {
      if (!isTrack) return {};
      NumberPlace number;
      for (const Strip strip : tree_.order()) {
        if (!session_.tracks[strip.track()].holdsClips()) continue;
        number.most = ++number.count;
        if (strip == source.track) number.place = number.count;
      }
      return numberText(number, use.number);
    }
    case NameField::TrackTags: return track == nullptr ? std::string() : plain(joined(track->tags, use));
    case NameField::Group: {
      const std::vector<std::string> groups = groupsOf(source);
      return groups.empty() ? std::string() : groups.back();
    }
    case NameField::Groups: return joined(groupsOf(source), use);
    case NameField::GroupLevel: {
      const std::vector<std::string> groups = groupsOf(source);
      const auto level = levelIndex(groups.size(), use.level);
      return level ? groups[*level] : std::string();
    }
    default: return {};
  }
}

// --- rows

std::string RowValues::number(const FieldUse& use, std::size_t row) const {
  const Row& first = sheet_.rows[brief_.firstRow];
  const Row& own = sheet_.rows[brief_.firstRow + row];
  const std::size_t sound = own.sound - first.sound;
  const TappedSound& tapped = sheet_.soundOf(own);
  const NumberSet& places = brief_.places[sound];
  const auto text = [&](Counter counter, long count, long most) {
    return numberText(placeOf(counter, places[counter], count, most), use.number);
  };
  switch (use.field) {
    case NameField::Number: return text(Counter::All, sounds_, sounds_);
    case NameField::NumberInRegion: return text(Counter::OfSpan, spanCounts_[tapped.span], mostInSpan_);
    case NameField::NumberOfSource:
      return text(Counter::OfSource, sourceCounts_[tapped.source], mostOfSource_);
    default:
      return names_.places.empty() ? std::string()
                                   : numberText(placeOf(Counter::AmongNames, names_.places[row],
                                                        names_.counts[row], names_.most),
                                                use.number);
  }
}

std::string RowValues::ofRow(const FieldUse& use, std::size_t index) const {
  const Row& row = sheet_.rows[brief_.firstRow + index];
  const EncodingInfo& encoding = encodingInfo(row.encoding);
  switch (use.field) {
    case NameField::Length: {
      const std::string_view unit = use.argumentOr("seconds");
      if (unit == "milliseconds") return std::to_string(atRate(row.frames(), row.rate, 1000));
      if (unit == "time") return timeInName(row.frames(), row.rate, false);
      return unit == "frames" ? std::to_string(row.frames()) : secondsText(row.frames(), row.rate);
    }
    case NameField::Channels: return channelText(row.channels);
    case NameField::Channel: return row.part > 0 ? channelName(row.folded, row.part) : std::string();
    case NameField::Rate:
      return use.argumentOr("Hz") == "kHz" ? plainNumber(row.rate / 1000.0) : std::to_string(row.rate);
    case NameField::Depth: return encoding.isLossy() ? std::string() : std::to_string(encoding.bits);
    case NameField::Format: return std::string(encoding.extension.substr(1));
    default: return number(use, index);
  }
}

}  // namespace octaphon
