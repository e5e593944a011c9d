#include "edit/locks.h"

#include <unordered_map>
#include <unordered_set>

#include "edit/inserts.h"
#include "session/description.h"

namespace octaphon {
namespace {

/// Whether an edit may change it all the same: the lock, and where a track stands.
template <class T, class TheField>
constexpr bool staysFree(const TheField& field) {
  if constexpr (std::is_same_v<T, Track>)
    return isField<&Track::lock>(field) || isField<&Track::clips>(field) || isField<&Track::group>(field);
  else
    return isField<&T::lock>(field);
}

template <class T>
std::size_t putBack(const T& before, T& after) {
  bool changed = false;
  forEachField<T>([&](const auto& field) {
    if (staysFree<T>(field) || field.in(after) == field.in(before)) return;
    field.in(after) = field.in(before);
    changed = true;
  });
  return changed ? 1 : 0;
}

/// Things that were locked, by id.
template <class T>
using Locked = std::unordered_map<std::string, const T*>;

template <class T>
std::size_t keepIn(std::vector<T>& list, const Locked<T>& locked) {
  std::size_t kept = 0;
  if (locked.empty()) return kept;
  for (T& thing : list)
    if (const auto found = locked.find(thing.id); found != locked.end())
      kept += putBack(*found->second, thing);
  return kept;
}
/// What is still shared was not changed.
template <class T>
std::size_t keepIn(SharedList<T>& list, const Locked<T>& locked) {
  const auto isOther = [&](const T& thing) {
    const auto found = locked.find(thing.id);
    return found != locked.end() && !(*found->second == thing);
  };
  std::size_t kept = 0;
  if (!locked.empty())
    changeWhere(list, isOther, [&](T& thing) { kept += putBack(*locked.find(thing.id)->second, thing); });
  return kept;
}

template <class T, class List>
Locked<T> lockedOf(const List& list) {
  Locked<T> locked;
  for (const T& thing : list)
    if (thing.lock) locked[thing.id] = &thing;
  return locked;
}

/// Sets that were put back may name clips that are gone.
void forgetLostMembers(Session& session) {
  std::unordered_set<std::string> clips;
  for (const Track& track : session.tracks)
    for (const Clip& clip : track.clips) clips.insert(clip.id);
  const auto isLost = [&](const std::string& id) { return !clips.contains(id); };
  changeWhere(
      session.clipSets,
      [&](const ClipSet& set) { return std::any_of(set.clips.begin(), set.clips.end(), isLost); },
      [&](ClipSet& set) { std::erase_if(set.clips, isLost); });
}

}  // namespace

std::size_t keepLocked(const Session& before, Session& after) {
  Locked<Clip> clips;
  Locked<Marker> markers;
  for (std::size_t t = 0; t < before.tracks.size(); ++t) {
    const Track& track = before.tracks[t];
    if (t < after.tracks.size() && track.clips.isSharedWith(after.tracks[t].clips)) continue;
    for (const Clip& clip : track.clips)
      if (track.lock || clip.lock) clips[clip.id] = &clip;
  }
  for (const MarkerSet& set : before.markerSets) markers.merge(lockedOf<Marker>(set.markers));
  const auto tracks = lockedOf<Track>(before.tracks);
  const auto regions = lockedOf<Region>(before.regions);
  const auto sets = lockedOf<ClipSet>(before.clipSets);
  if (clips.empty() && markers.empty() && tracks.empty() && regions.empty() && sets.empty()) return 0;
  const Session asked = after;
  std::size_t kept = keepIn(after.tracks, tracks);
  for (Track& track : after.tracks) kept += keepIn(track.clips, clips);
  kept += keepIn(after.regions, regions);
  for (MarkerSet& set : after.markerSets) kept += keepIn(set.markers, markers);
  kept += keepIn(after.clipSets, sets);
  if (kept == 0) return 0;
  // What led to things that are gone goes with them, from locked things too.
  dropLooseSends(after);
  forgetLostMembers(after);
  return after == asked ? 0 : kept;
}

}  // namespace octaphon
