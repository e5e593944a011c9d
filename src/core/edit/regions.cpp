#include "edit/regions.h"

#include <algorithm>

#include "edit/ids.h"
#include "edit/spans.h"
#include "naming/file_name.h"

namespace octaphon {
namespace {

std::vector<Region*> chosen(Session& session, const Ids& ids) {
  std::vector<Region*> regions;
  changeWhere(
      session.regions, [&](const Region& region) { return ids.contains(region.id); },
      [&](Region& region) { regions.push_back(&region); });
  std::stable_sort(regions.begin(), regions.end(),
                   [](const Region* a, const Region* b) { return a->start < b->start; });
  return regions;
}

/// Of a list with a lock on each; what is locked stays.
template <class List>
EditCount countChosen(const List& things, const Ids& ids) {
  EditCount count;
  for (const auto& thing : things)
    if (ids.contains(thing.id)) ++(thing.lock ? count.locked : count.changed);
  return count;
}

}  // namespace

Region* findRegion(Session& session, const std::string& id) {
  for (std::size_t i = 0; i < session.regions.size(); ++i)
    if (std::as_const(session.regions)[i].id == id) return &session.regions[i];
  return nullptr;
}

EditCount moveRegions(Session& session, const Ids& ids, Frame by) {
  EditCount count;
  const std::vector<Region*> regions = chosen(session, ids);
  for (const Region* region : regions)
    if (!region->lock) by = std::clamp(by, -region->start, kMaxFrame - region->end());
  for (Region* region : regions) {
    ++(region->lock ? count.locked : count.changed);
    if (!region->lock) region->start += by;
  }
  return count;
}

EditCount startRegion(Session& session, const std::string& id, Frame start) {
  Region* region = findRegion(session, id);
  if (region == nullptr) return {};
  if (region->lock || region->fixed) return {0, 1};
  const Frame end = region->end();
  region->start = std::clamp<Frame>(start, 0, std::max<Frame>(end - 1, 0));
  region->length = end - region->start;
  return {1, 0};
}

EditCount endRegion(Session& session, const std::string& id, Frame end) {
  Region* region = findRegion(session, id);
  if (region == nullptr) return {};
  if (region->lock || region->fixed) return {0, 1};
  region->length = std::clamp(end, std::min(region->start + 1, kMaxFrame), kMaxFrame) - region->start;
  return {1, 0};
}

std::vector<std::string> splitRegions(Session& session, const Ids& ids, Frame at) {
  IdMaker maker(session);
  std::vector<Region> behind;
  for (Region* region : chosen(session, ids)) {
    if (region->lock || region->fixed || at <= region->start || at >= region->end()) continue;
    Region second = *region;
    second.id = maker.next("r");
    second.start = at;
    second.length = region->end() - at;
    region->length = at - region->start;
    second.name = baseName(region->name);
    behind.push_back(std::move(second));
  }
  std::vector<std::string> names, made;
  for (const Region& region : behind) names.push_back(region.name);
  names = numberedNames(names, spanNames(session));
  for (std::size_t i = 0; i < behind.size(); ++i) {
    behind[i].name = names[i];
    made.push_back(behind[i].id);
    session.regions.push_back(std::move(behind[i]));
  }
  return made;
}

EditCount joinRegions(Session& session, const Ids& ids) {
  const std::vector<Region*> regions = chosen(session, ids);
  if (regions.size() < 2) return {};
  Frame end = 0;
  for (const Region* region : regions) {
    if (region->lock || region->fixed) return {0, 1};
    end = std::max(end, region->end());
  }
  regions.front()->length = end - regions.front()->start;
  const std::string kept = regions.front()->id;
  const EditCount count{regions.size(), 0};
  session.regions.eraseIf([&](const Region& region) { return ids.contains(region.id) && region.id != kept; });
  return count;
}

EditCount deleteRegions(Session& session, const Ids& ids) {
  const EditCount count = countChosen(session.regions, ids);
  session.regions.eraseIf([&](const Region& region) { return ids.contains(region.id) && !region.lock; });
  return count;
}

std::string addMarker(Session& session, const std::string& setId, const std::string& name, Frame at) {
  IdMaker maker(session);
  auto set = std::find_if(session.markerSets.begin(), session.markerSets.end(),
                          [&](const MarkerSet& s) { return s.id == setId; });
  if (set == session.markerSets.end()) {
    const std::string id = setId.empty() || !maker.take(setId) ? maker.next("set") : setId;
    session.markerSets.push_back({id, "Markers", {}, {}});
    set = std::prev(session.markerSets.end());
  }
  Marker marker;
  marker.id = maker.next("m");
  marker.name = name;
  marker.at = at;
  const auto place = std::upper_bound(set->markers.begin(), set->markers.end(), at,
                                      [](Frame a, const Marker& m) { return a < m.at; });
  return set->markers.insert(place, std::move(marker))->id;
}

EditCount moveMarkers(Session& session, const Ids& ids, Frame by) {
  EditCount count;
  for (const MarkerSet& set : session.markerSets)
    for (const Marker& marker : set.markers)
      if (ids.contains(marker.id) && !marker.lock) by = std::clamp(by, -marker.at, kMaxFrame - marker.at);
  for (MarkerSet& set : session.markerSets)
    for (Marker& marker : set.markers) {
      if (!ids.contains(marker.id)) continue;
      ++(marker.lock ? count.locked : count.changed);
      if (!marker.lock) marker.at += by;
    }
  return count;
}

EditCount deleteMarkers(Session& session, const Ids& ids) {
  EditCount count;
  for (MarkerSet& set : session.markerSets) {
    const EditCount here = countChosen(set.markers, ids);
    std::erase_if(set.markers, [&](const Marker& marker) { return ids.contains(marker.id) && !marker.lock; });
    count.changed += here.changed;
    count.locked += here.locked;
  }
  return count;
}

}  // namespace octaphon
