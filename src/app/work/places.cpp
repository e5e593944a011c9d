#include "app/work/places.h"

#include <algorithm>

#include "app/work/listener.h"
#include "edit/clip_sets.h"
#include "edit/spans.h"

namespace octaphon::app {
namespace {

template <class List>
auto find(const List& list, const std::string& id) {
  const auto found =
      std::find_if(list.begin(), list.end(), [&](const auto& thing) { return thing.id == id; });
  return found == list.end() ? nullptr : &*found;
}

std::optional<TimeSpan> spanOf(const Session& session, Thing thing, const std::string& id) {
  switch (thing) {
    case Thing::Region:
      if (const Region* region = find(session.regions, id)) return TimeSpan{region->start, region->length};
      break;
    case Thing::ClipSet:
      if (const ClipSet* set = find(session.clipSets, id)) return extentOf(session, *set);
      break;
    case Thing::Clip:
      for (const ClipPlace place : placesOf(session, {id}))
        return TimeSpan{clipAt(session, place).start, clipAt(session, place).length};
      break;
    case Thing::Marker:
      for (const MarkerSet& set : session.markerSets)
        if (const Marker* marker = find(set.markers, id)) return TimeSpan{marker->at, 1};
      break;
    case Thing::Track: break;
  }
  return std::nullopt;
}

bool isThere(const Session& session, Thing thing, const std::string& id) {
  if (thing == Thing::Track) return findTrack(session, id) != nullptr;
  if (thing == Thing::ClipSet) return find(session.clipSets, id) != nullptr;
  return spanOf(session, thing, id).has_value();
}

}  // namespace

Places::Places(Document& document, Selected& selected, RowChoice& rows, InStep& inStep, Listener& listener,
               QObject* parent)
    : QObject(parent),
      document_(document),
      selected_(selected),
      rows_(rows),
      inStep_(inStep),
      listener_(listener) {}

std::vector<const Region*> Places::byTime(const Session& session) {
  std::vector<const Region*> regions;
  regions.reserve(session.regions.size());
  for (const Region& region : session.regions) regions.push_back(&region);
  std::stable_sort(regions.begin(), regions.end(), [](const Region* a, const Region* b) {
    return a->start != b->start ? a->start < b->start : a->length > b->length;
  });
  return regions;
}

void Places::show(const TimeSpan& span) {
  emit spanWanted(span.start, span.end());
  listener_.goOnAt(span);
}

void Places::go(Thing thing, const std::string& id) {
  const auto session = document_.session();
  if (!isThere(*session, thing, id)) return;
  selected_.set(thing, {id});
  if (thing == Thing::Track) emit trackWanted(id);
  if (thing == Thing::Clip)
    for (const ClipPlace place : placesOf(*session, {id})) emit trackWanted(session->tracks[place.track].id);
  if (const auto span = spanOf(*session, thing, id)) show(*span);
}

void Places::goTo(const PlannedSpan& span) {
  switch (span.kind) {
    case PlannedSpan::Kind::Region: return go(Thing::Region, span.id);
    case PlannedSpan::Kind::ClipSet: return go(Thing::ClipSet, span.id);
    case PlannedSpan::Kind::Clip: return go(Thing::Clip, span.id);
    case PlannedSpan::Kind::Markers:
    case PlannedSpan::Kind::Session:
    case PlannedSpan::Kind::Extent:
    case PlannedSpan::Kind::Range: return show({span.start, span.length});
  }
}

void Places::goTo(const Finding& finding) {
  switch (finding.placeKind) {
    case PlaceKind::Region: return go(Thing::Region, finding.place);
    case PlaceKind::ClipSet: return go(Thing::ClipSet, finding.place);
    case PlaceKind::Track: return go(Thing::Track, finding.place);
    case PlaceKind::Clip: return go(Thing::Clip, finding.place);
    case PlaceKind::Medium: return goToMedium(finding.place);
  }
}

void Places::goToMedium(const std::string& id) {
  const auto session = document_.session();
  for (const Track& track : session->tracks)
    for (const Clip& clip : track.clips)
      if (clip.medium == id) return go(Thing::Clip, clip.id);
}

void Places::goToRow(const std::string& key) {
  const auto sheet = rows_.sheet();
  const auto row = sheet->find(key);
  if (!row) return;
  const Row& chosen = sheet->rows[*row];
  const InStep::Pause pause(inStep_);
  goTo(sheet->spanOf(chosen));
  emit trackWanted(sheet->sourceOf(chosen).id);
}

void Places::stepRegion(int step) {
  const auto session = document_.session();
  const auto regions = byTime(*session);
  if (regions.empty()) return;
  const auto current = std::find_if(regions.begin(), regions.end(), [&](const Region* region) {
    return selected_.regions().contains(region->id);
  });
  if (current == regions.end()) return go(Thing::Region, (step > 0 ? regions.front() : regions.back())->id);
  const auto at = current - regions.begin() + step;
  if (at >= 0 && at < static_cast<std::ptrdiff_t>(regions.size()))
    go(Thing::Region, regions[static_cast<std::size_t>(at)]->id);
}

/// From the first beginning to the last end.
std::optional<TimeSpan> Places::selectedSpan() const {
  if (selected_.range()) return selected_.range();
  const auto session = document_.session();
  std::optional<TimeSpan> all;
  const auto add = [&](const TimeSpan& span) {
    const Frame end = std::max(all ? all->end() : 0, span.end());
    const Frame start = all ? std::min(all->start, span.start) : span.start;
    all = TimeSpan{start, end - start};
  };
  for (const ClipPlace place : placesOf(*session, selected_.clips()))
    add({clipAt(*session, place).start, clipAt(*session, place).length});
  for (const Thing thing : {Thing::Region, Thing::ClipSet, Thing::Marker})
    for (const std::string& id : selected_.of(thing))
      if (const auto span = spanOf(*session, thing, id)) add(*span);
  return all;
}

void Places::goToEdge(bool isEnd) {
  const auto span = selectedSpan();
  if (!span) return;
  const Frame at = isEnd ? span->end() : span->start;
  emit spanWanted(at, at);
  listener_.moveTo(at);
}

void Places::zoomToRegion() {
  if (const Region* region = selected_.firstRegion(*document_.session()))
    emit zoomWanted(region->start, region->end());
}

void Places::zoomToSelection() {
  std::optional<TimeSpan> range = selected_.range();
  SpanRequest request;
  request.clips = selected_.clips();
  if (!range && !request.clips.empty())
    if (const auto around = proposeSpans(*document_.session(), request); !around.empty())
      range = around.front().span;
  if (!range) return zoomToRegion();
  emit zoomWanted(range->start, range->end());
}

}  // namespace octaphon::app
