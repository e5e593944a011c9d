#include "edit/tracks.h"

#include <algorithm>

#include "base/unicode.h"
#include "edit/clips.h"
#include "edit/ids.h"
#include "edit/inserts.h"
#include "routing/track_tree.h"

namespace octaphon {
namespace {

std::ptrdiff_t indexOf(const Session& session, const std::string& id) {
  const auto found = std::find_if(session.tracks.begin(), session.tracks.end(),
                                  [&](const Track& track) { return track.id == id; });
  return found - session.tracks.begin();
}

/// Those that are in none of the others.
std::vector<std::string> topmost(const Session& session, const std::vector<std::string>& ids) {
  const TrackTree tree(session);
  const Ids all(ids.begin(), ids.end());
  std::vector<std::string> top;
  for (const Strip track : tree.order()) {
    if (!all.contains(session.tracks[track.track()].id)) continue;
    bool inside = false;
    for (Strip up = tree.parent(track); !up.isMain(); up = tree.parent(up))
      inside |= all.contains(session.tracks[up.track()].id);
    if (!inside) top.push_back(session.tracks[track.track()].id);
  }
  return top;
}

int heightOf(const TrackTree& tree, Strip track) {
  int height = 0;
  for (const Strip other : tree.order())
    if (tree.isInside(other, track)) height = std::max(height, tree.depth(other) - tree.depth(track));
  return height;
}

Result<> checkPlace(const Session& session, const std::vector<std::string>& ids, const std::string& group) {
  const TrackTree tree(session);
  const std::optional<Strip> target = tree.find(group);
  if (!group.empty() && (!target || !session.tracks[target->track()].isGroup()))
    return fail(ErrorCode::UnknownName, printable(group), "there is no such group");
  for (const std::string& id : ids) {
    const std::optional<Strip> track = tree.find(id);
    if (!track) return fail(ErrorCode::UnknownName, printable(id), "there is no such track");
    const std::string name = printable(session.tracks[track->track()].name);
    if (target && tree.isInside(*target, *track))
      return fail(ErrorCode::BadValue, name, "a group cannot be put into itself", "Choose another place");
    const int depth = target ? tree.depth(*target) + 1 : 0;
    if (depth + heightOf(tree, *track) > kMaxDepth)
      return fail(ErrorCode::TooLarge, name, "groups would be nested too deep", "Take groups out first");
  }
  return {};
}

const char* idPrefix(TrackKind kind) {
  return kind == TrackKind::Group ? "g" : kind == TrackKind::Return ? "ret" : "t";
}

}  // namespace

std::string addTrack(Session& session, const std::string& name, TrackKind kind, const std::string& group,
                     int channels) {
  IdMaker maker(session);
  Track track;
  track.id = maker.next(idPrefix(kind));
  track.name = name;
  track.kind = kind;
  track.group = group;
  track.channels = channels;
  session.tracks.push_back(std::move(track));
  return session.tracks.back().id;
}

/// Those of them that may go elsewhere.
static std::vector<std::string> movable(const Session& session, const std::vector<std::string>& ids) {
  std::vector<std::string> top = topmost(session, ids);
  std::erase_if(top, [&](const std::string& id) { return findTrack(session, id)->lock; });
  return top;
}

Result<> placeTracks(Session& session, const std::vector<std::string>& ids, const std::string& group,
                     const std::string& before) {
  const std::vector<std::string> top = movable(session, ids);
  OCTAPHON_TRY(checkPlace(session, top, group));
  const Ids moving(top.begin(), top.end());
  // The sibling that they go in front of; it must not be one that moves.
  std::string anchor = before;
  while (moving.contains(anchor)) {
    auto next = std::find_if(session.tracks.begin() + indexOf(session, anchor) + 1, session.tracks.end(),
                             [&](const Track& track) { return track.group == group; });
    anchor = next == session.tracks.end() ? std::string() : next->id;
  }
  std::vector<Track> moved;
  for (const std::string& id : top) {
    const auto at = session.tracks.begin() + indexOf(session, id);
    moved.push_back(std::move(*at));
    session.tracks.erase(at);
    moved.back().group = group;
  }
  const auto place =
      anchor.empty() ? session.tracks.end() : session.tracks.begin() + indexOf(session, anchor);
  session.tracks.insert(place, std::make_move_iterator(moved.begin()), std::make_move_iterator(moved.end()));
  return {};
}

void stepTracks(Session& session, const std::vector<std::string>& ids, int by) {
  std::vector<std::string> moving = movable(session, ids);
  if (moving.empty()) return;
  const std::string group = findTrack(session, moving.front())->group;
  std::vector<std::string> siblings;
  for (const Track& track : session.tracks)
    if (track.group == group) siblings.push_back(track.id);
  std::erase_if(moving, [&](const std::string& id) { return findTrack(session, id)->group != group; });
  const auto placeOf = [&](const std::string& id) {
    return std::find(siblings.begin(), siblings.end(), id) - siblings.begin();
  };
  const auto past = by < 0 ? placeOf(moving.front()) - 1 : placeOf(moving.back()) + 1;
  const auto count = static_cast<std::ptrdiff_t>(siblings.size());
  if (past < 0 || past >= count) return;
  const auto before = by < 0 ? past : past + 1;
  (void)placeTracks(session, moving, group,
                    before < count ? siblings[static_cast<std::size_t>(before)] : std::string());
}

Result<std::string> nestTracks(Session& session, const std::vector<std::string>& ids,
                               const std::string& name) {
  const std::vector<std::string> top = movable(session, ids);
  if (top.empty())
    return fail(ErrorCode::BadValue, "group", ids.empty() ? "no track is selected" : "the tracks are locked",
                ids.empty() ? "Select the tracks to group" : "Unlock them first");
  const std::string around = findTrack(session, top.front())->group;
  const std::string group = addTrack(session, name, TrackKind::Group, around);
  OCTAPHON_TRY(placeTracks(session, {group}, around, top.front()));
  OCTAPHON_TRY(placeTracks(session, top, group, {}));
  return group;
}

Result<> takeOutTracks(Session& session, const std::vector<std::string>& ids) {
  std::vector<std::string> top = movable(session, ids);
  std::reverse(top.begin(), top.end());  // each goes right behind the group: the first of them last
  for (const std::string& id : top) {
    const Track* group = findTrack(session, findTrack(session, id)->group);
    if (group == nullptr) continue;
    const std::string around = group->group;
    const auto next =
        std::find_if(session.tracks.begin() + indexOf(session, group->id) + 1, session.tracks.end(),
                     [&](const Track& track) { return track.group == around; });
    OCTAPHON_TRY(placeTracks(session, {id}, around, next == session.tracks.end() ? std::string() : next->id));
  }
  return {};
}

std::vector<std::string> duplicateTracks(Session& session, const std::vector<std::string>& ids) {
  std::vector<std::string> made;
  IdMaker maker(session);
  for (const std::string& id : topmost(session, ids)) {
    const TrackTree tree(session);
    const Strip original = *tree.find(id);
    std::unordered_map<std::string, std::string> copies;
    std::vector<Track> added;
    for (const Strip index : tree.order()) {
      if (!tree.isInside(index, original)) continue;
      Track copy = session.tracks[index.track()];
      const std::string fresh = maker.next(idPrefix(copy.kind));
      copies.emplace(copy.id, fresh);
      copy.id = fresh;
      if (const auto parent = copies.find(copy.group); parent != copies.end()) copy.group = parent->second;
      for (Clip& clip : copy.clips.writable()) clip.id = maker.next("c");
      renewIds(copy, maker);
      added.push_back(std::move(copy));
    }
    made.push_back(added.front().id);
    const auto place = session.tracks.begin() + indexOf(session, id) + 1;
    session.tracks.insert(place, std::make_move_iterator(added.begin()),
                          std::make_move_iterator(added.end()));
  }
  return made;
}

EditCount deleteTracks(Session& session, const Ids& ids) {
  EditCount count;
  const TrackTree tree(session);
  std::vector<char> goes(session.tracks.size(), 0);
  for (const std::string& id : topmost(session, {ids.begin(), ids.end()})) {
    const Strip top = *tree.find(id);
    bool locked = false;
    for (const Strip index : tree.order()) {
      const Track& track = session.tracks[index.track()];
      if (!tree.isInside(index, top)) continue;
      locked |= track.lock ||
                std::any_of(track.clips.begin(), track.clips.end(), [](const Clip& c) { return c.lock; });
    }
    ++(locked ? count.locked : count.changed);
    for (const Strip index : tree.order())
      if (!locked && tree.isInside(index, top)) goes[index.track()] = 1;
  }
  ClipIds clips;
  for (std::size_t i = 0; i < goes.size(); ++i)
    if (goes[i] != 0)
      for (const Clip& clip : session.tracks[i].clips) clips.insert(clip.id);
  (void)deleteClips(session, clips);
  std::size_t i = 0;
  std::erase_if(session.tracks, [&](const Track&) { return goes[i++] != 0; });
  dropLooseSends(session);
  return count;
}

std::vector<std::string> splitChannels(Session& session, const Ids& ids, int width) {
  std::vector<std::string> made;
  IdMaker maker(session);
  for (std::size_t t = 0; t < session.tracks.size(); ++t) {
    const Track whole = session.tracks[t];
    const bool chosen = std::any_of(whole.clips.begin(), whole.clips.end(),
                                    [](const Clip& clip) { return clip.channel > 0 || clip.lock; });
    if (!ids.contains(whole.id) || !whole.holdsClips() || whole.lock || chosen || whole.channels <= width)
      continue;
    std::vector<Track> parts;
    for (int first = 1; first <= whole.channels; first += width) {
      Track part = whole;
      const int last = std::min(first + width - 1, whole.channels);
      part.name += " " + std::to_string(first) + (last > first ? "-" + std::to_string(last) : "");
      part.channels = width;
      if (first > 1) part.id = maker.next("t"), renewIds(part, maker);
      for (Clip& clip : part.clips.writable()) {
        clip.channel = first;
        if (first > 1) clip.id = maker.next("c");
      }
      made.push_back(part.id);
      parts.push_back(std::move(part));
    }
    const auto place = session.tracks.erase(session.tracks.begin() + static_cast<std::ptrdiff_t>(t));
    session.tracks.insert(place, std::make_move_iterator(parts.begin()),
                          std::make_move_iterator(parts.end()));
    t += parts.size() - 1;
  }
  return made;
}

EditCount putMarkersInto(Session& session, const Ids& ids, const std::string& setName) {
  EditCount count;
  std::vector<Marker> moved;
  for (MarkerSet& set : session.markerSets)
    std::erase_if(set.markers, [&](Marker& marker) {
      if (!ids.contains(marker.id)) return false;
      ++(marker.lock ? count.locked : count.changed);
      if (marker.lock) return false;
      moved.push_back(marker);
      return true;
    });
  if (moved.empty()) return count;
  auto target = std::find_if(session.markerSets.begin(), session.markerSets.end(),
                             [&](const MarkerSet& set) { return set.name == setName; });
  if (target == session.markerSets.end()) {
    IdMaker maker(session);
    session.markerSets.push_back({maker.next("set"), setName, {}, {}});
    target = std::prev(session.markerSets.end());
  }
  target->markers.insert(target->markers.end(), moved.begin(), moved.end());
  std::stable_sort(target->markers.begin(), target->markers.end(),
                   [](const Marker& a, const Marker& b) { return a.at < b.at; });
  std::erase_if(session.markerSets, [](const MarkerSet& set) { return set.markers.empty(); });
  return count;
}

EditCount linkTracks(Session& session, const Ids& ids, bool link) {
  EditCount count;
  int number = 0;
  if (link) {
    for (const Track& track : session.tracks) number = std::max(number, track.link);
    number = std::min(number + 1, kMaxLink);
  }
  for (Track& track : session.tracks) {
    if (!ids.contains(track.id) || !track.holdsClips()) continue;
    track.link = number;
    ++count.changed;
  }
  return count;
}

EditCount joinTakes(Session& session, const std::vector<std::string>& tracks, const std::string& name,
                    Frame gap) {
  for (const std::string& id : tracks) {
    const Track* track = findTrack(session, id);
    if (track == nullptr || !track->holdsClips()) return {};
    if (track->lock) return {0, 1};
    if (track->channels != findTrack(session, tracks.front())->channels) return {};
  }
  std::vector<Clip> joined;
  Frame at = 0;
  for (const std::string& id : tracks) {
    const Track& track = *findTrack(session, id);
    Frame first = kMaxFrame, last = 0;
    for (const Clip& clip : track.clips) {
      first = std::min(first, clip.start);
      last = std::max(last, clip.end());
    }
    if (track.clips.empty()) continue;
    if (joined.empty()) at = first;
    if (at > kMaxFrame - (last - first)) return {};
    for (Clip clip : track.clips) {
      clip.start += at - first;
      if (clip.name.empty()) clip.name = track.name;
      joined.push_back(std::move(clip));
    }
    at += last - first + gap;
  }
  Track& target = session.tracks[static_cast<std::size_t>(indexOf(session, tracks.front()))];
  target.clips = std::move(joined);
  target.name = name;
  const Ids gone(tracks.begin() + 1, tracks.end());
  std::erase_if(session.tracks, [&](const Track& track) { return gone.contains(track.id); });
  return {tracks.size(), 0};
}

}  // namespace octaphon
