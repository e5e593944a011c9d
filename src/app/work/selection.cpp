#include "app/work/selection.h"

#include <algorithm>

#include "app/work/text.h"
#include "base/unicode.h"

namespace octaphon::app {

QString wordOf(Thing thing, std::size_t count) {
  switch (thing) {
    case Thing::Region: return text(counted(count, "region"));
    case Thing::ClipSet: return text(counted(count, "clip set"));
    case Thing::Track: return text(counted(count, "track"));
    case Thing::Clip: return text(counted(count, "clip"));
    case Thing::Marker: return text(counted(count, "marker"));
  }
  return {};
}

QString mergeKey(const QString& property, const Ids& things) {
  std::vector<std::string> ids(things.begin(), things.end());
  std::sort(ids.begin(), ids.end());
  QString key = property;
  for (const std::string& id : ids) key += '\n' + text(id);
  return key;
}

bool Selected::isEmpty() const {
  return !range_ && std::all_of(ids_.begin(), ids_.end(), [](const Ids& ids) { return ids.empty(); });
}

const Region* Selected::firstRegion(const Session& session) const {
  const Region* first = nullptr;
  for (const Region& region : session.regions)
    if (regions().contains(region.id) && (first == nullptr || region.start < first->start)) first = &region;
  return first;
}

void Selected::set(Thing thing, Ids ids) {
  std::array<Ids, kThings> all;
  all[static_cast<std::size_t>(thing)] = std::move(ids);
  if (all == ids_) return;
  ids_ = std::move(all);
  emit changed();
}

void Selected::toggle(Thing thing, const std::string& id) {
  Ids ids = of(thing);
  if (ids.erase(id) == 0) ids.insert(id);
  set(thing, std::move(ids));
}

void Selected::setRange(std::optional<TimeSpan> range) {
  if (range && range->length == 0) range.reset();
  if (range == range_) return;
  range_ = range;
  emit changed();
}

void Selected::clear() {
  const bool was = !isEmpty();
  ids_ = {};
  range_.reset();
  if (was) emit changed();
}

void Selected::prune(const Session& session) {
  std::array<Ids, kThings> there;
  const auto keep = [&](Thing thing, const auto& list) {
    const auto index = static_cast<std::size_t>(thing);
    if (ids_[index].empty()) return;
    for (const auto& item : list)
      if (ids_[index].contains(item.id)) there[index].insert(item.id);
  };
  for (const Track& track : session.tracks) keep(Thing::Clip, track.clips);
  keep(Thing::Region, session.regions);
  keep(Thing::Track, session.tracks);
  keep(Thing::ClipSet, session.clipSets);
  for (const MarkerSet& set : session.markerSets) keep(Thing::Marker, set.markers);
  if (there == ids_) return;
  ids_ = std::move(there);
  emit changed();
}

}  // namespace octaphon::app
