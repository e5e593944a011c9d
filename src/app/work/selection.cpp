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
  pruned_.reset();
  if (was) emit changed();
}

void Selected::prune(std::shared_ptr<const Session> now, bool areOthers) {
  const Session& session = *now;
  bool isChanged = false;
  // Mostly all is still there: nothing is gathered anew for that.
  const auto keep = [&](Thing thing, const auto& forEach) {
    Ids& ids = ids_[static_cast<std::size_t>(thing)];
    if (ids.empty()) return;
    std::size_t found = 0;
    forEach([&](const auto& item) { found += ids.contains(item.id) ? 1 : 0; });
    if (found == ids.size()) return;
    Ids there;
    forEach([&](const auto& item) {
      if (ids.contains(item.id)) there.insert(item.id);
    });
    ids = std::move(there);
    isChanged = true;
  };
  const auto in = [](const auto& list) {
    return [&list](const auto& visit) { std::for_each(list.begin(), list.end(), visit); };
  };
  const std::shared_ptr<const Session> before = std::exchange(pruned_, std::move(now));
  const bool hasAll = clips().empty() || (before && !areOthers && haveSameClips(*before, session));
  if (const auto places = hasAll ? std::vector<ClipPlace>() : placesOf(session, clips());
      !hasAll && places.size() != clips().size())
    keep(Thing::Clip, [&](const auto& visit) {
      for (const ClipPlace place : places) visit(clipAt(session, place));
    });
  keep(Thing::Region, in(session.regions));
  keep(Thing::Track, in(session.tracks));
  keep(Thing::ClipSet, in(session.clipSets));
  keep(Thing::Marker, [&](const auto& visit) {
    for (const MarkerSet& set : session.markerSets)
      std::for_each(set.markers.begin(), set.markers.end(), visit);
  });
  if (isChanged) emit changed();
}

}  // namespace octaphon::app
