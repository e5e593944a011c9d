#include "edit/clips.h"

#include <algorithm>
#include <span>
#include <utility>

#include "base/decibels.h"
#include "base/in_parallel.h"
#include "edit/inserts.h"
#include "routing/track_tree.h"

namespace octaphon {
namespace {

/// Places on one track.
using OnTrack = std::span<const ClipPlace>;

std::vector<OnTrack> byTrack(const std::vector<ClipPlace>& places) {
  std::vector<OnTrack> tracks;
  for (std::size_t first = 0, end; first < places.size(); first = end) {
    for (end = first + 1; end < places.size() && places[end].track == places[first].track;) ++end;
    tracks.emplace_back(&places[first], end - first);
  }
  return tracks;
}

/// Calls change(clip) for each that is not locked; those of several tracks at once.
template <class Change>
EditCount forEachFree(Session& session, const std::vector<OnTrack>& tracks, const Change& change) {
  std::vector<EditCount> counts(tracks.size());
  inParallel(tracks.size(), [&](std::size_t t) {
    Track& track = session.tracks[tracks[t].front().track];
    for (const ClipPlace place : tracks[t]) {
      const bool isFree = !isLocked(session, place);
      if (isFree) change(track.clips[place.clip]);
      ++(isFree ? counts[t].changed : counts[t].locked);
    }
  });
  EditCount all;
  for (const EditCount& count : counts) all.changed += count.changed, all.locked += count.locked;
  return all;
}
template <class Change>
EditCount forEachFree(Session& session, const ClipIds& ids, const Change& change) {
  return forEachFree(session, byTrack(placesOf(session, ids)), change);
}

void fitFades(Clip& clip) {
  clip.fadeIn.length = std::min(clip.fadeIn.length, clip.length);
  clip.fadeOut.length = std::min(clip.fadeOut.length, clip.length);
}

/// Tracks that hold clips, in the order of the tree.
std::vector<std::size_t> clipTracks(const Session& session) {
  std::vector<std::size_t> tracks;
  const TrackTree tree(session);
  for (const Strip track : tree.order())
    if (session.tracks[track.track()].holdsClips()) tracks.push_back(track.track());
  return tracks;
}

void sortByStart(Track& track) {
  const auto isBefore = [](const Clip& a, const Clip& b) { return a.start < b.start; };
  if (std::is_sorted(track.clips.begin(), track.clips.end(), isBefore)) return;
  std::vector<Clip>& clips = track.clips.writable();
  std::stable_sort(clips.begin(), clips.end(), isBefore);
}

Frame allowedMove(const Session& session, const std::vector<OnTrack>& tracks, Frame by) {
  std::vector<Frame> least(tracks.size(), kMaxFrame), latest(tracks.size(), 0);
  inParallel(tracks.size(), [&](std::size_t t) {
    for (const ClipPlace place : tracks[t]) {
      if (isLocked(session, place)) continue;
      least[t] = std::min(least[t], clipAt(session, place).start);
      latest[t] = std::max(latest[t], clipAt(session, place).end());
    }
  });
  for (std::size_t t = 0; t < tracks.size(); ++t) by = std::clamp(by, -least[t], kMaxFrame - latest[t]);
  return by;
}

int allowedTrackMove(const std::vector<std::size_t>& order, const std::vector<std::size_t>& rank,
                     const std::vector<ClipPlace>& places, int by) {
  for (const ClipPlace place : places) {
    const int at = static_cast<int>(rank[place.track]);
    by = std::clamp(by, -at, static_cast<int>(order.size()) - 1 - at);
  }
  return by;
}

void joinSets(Session& session, const std::unordered_map<std::string, std::string>& pieces) {
  const auto isCut = [&](const std::string& clip) { return pieces.contains(clip); };
  changeWhere(
      session.clipSets,
      [&](const ClipSet& set) { return std::any_of(set.clips.begin(), set.clips.end(), isCut); },
      [&](ClipSet& set) {
        for (std::size_t i = 0; i < set.clips.size(); ++i)
          if (const auto piece = pieces.find(set.clips[i]); piece != pieces.end())
            set.clips.insert(set.clips.begin() + static_cast<std::ptrdiff_t>(++i), piece->second);
      });
}

}  // namespace

EditCount moveClips(Session& session, const ClipIds& ids, Frame by, int tracksDown) {
  const std::vector<ClipPlace> places = placesOf(session, ids);
  const std::vector<OnTrack> tracks = byTrack(places);
  const Frame step = allowedMove(session, tracks, by);
  if (tracksDown == 0) {
    const EditCount count = forEachFree(session, tracks, [&](Clip& clip) { clip.start += step; });
    inParallel(tracks.size(), [&](std::size_t t) { sortByStart(session.tracks[tracks[t].front().track]); });
    return count;
  }
  const std::vector<std::size_t> order = clipTracks(session);
  std::vector<std::size_t> rank(session.tracks.size(), 0);
  for (std::size_t i = 0; i < order.size(); ++i) rank[order[i]] = i;
  const int down = allowedTrackMove(order, rank, places, tracksDown);
  EditCount count;
  std::vector<std::pair<std::size_t, Clip>> moved;
  std::vector<std::size_t> targets;
  ClipIds gone;
  for (const ClipPlace place : places) {
    const std::size_t target =
        order[static_cast<std::size_t>(static_cast<std::ptrdiff_t>(rank[place.track]) + down)];
    if (isLocked(session, place) || session.tracks[target].lock) {
      ++count.locked;
      continue;
    }
    Clip clip = clipAt(session, place);
    clip.start += step;
    gone.insert(clip.id);
    targets.push_back(target);
    moved.emplace_back(target, std::move(clip));
    ++count.changed;
  }
  for (Track& track : session.tracks)
    track.clips.eraseIf([&](const Clip& clip) { return gone.contains(clip.id); });
  for (auto& [track, clip] : moved) session.tracks[track].clips.push_back(std::move(clip));
  std::sort(targets.begin(), targets.end());
  targets.erase(std::unique(targets.begin(), targets.end()), targets.end());
  for (const std::size_t track : targets) sortByStart(session.tracks[track]);
  return count;
}

EditCount trimStarts(Session& session, const ClipIds& ids, Frame by) {
  return forEachFree(session, ids, [&](Clip& clip) {
    const Frame step =
        std::clamp(by, -std::min(clip.offset, clip.start), std::max<Frame>(clip.length - 1, 0));
    clip.start += step;
    clip.offset += step;
    clip.length -= step;
    fitFades(clip);
  });
}

EditCount trimEnds(Session& session, const ClipIds& ids, Frame by) {
  return forEachFree(session, ids, [&](Clip& clip) {
    const Frame room = kMaxFrame - std::max(clip.end(), clip.offset + clip.length);
    clip.length += std::clamp(by, std::min<Frame>(1 - clip.length, 0), room);
    fitFades(clip);
  });
}

EditCount splitClips(Session& session, const ClipIds& ids, Frame at) {
  EditCount count;
  IdMaker maker(session);
  std::unordered_map<std::string, std::string> pieces;
  for (Track& track : session.tracks) {
    std::vector<Clip> behind;
    const auto isCut = [&](const Clip& clip) {
      if (!ids.contains(clip.id) || at <= clip.start || at >= clip.end()) return false;
      const bool isLocked = track.lock || clip.lock;
      if (isLocked) ++count.locked;
      return !isLocked;
    };
    changeWhere(track.clips, isCut, [&](Clip& clip) {
      Clip second = clip;
      const Frame first = at - clip.start;
      second.id = maker.next("c");
      renewIds(second, maker);
      second.start = at;
      second.offset += first;
      second.length -= first;
      second.fadeIn = {};
      clip.length = first;
      clip.fadeOut = {};
      fitFades(clip);
      fitFades(second);
      pieces.emplace(clip.id, second.id);
      behind.push_back(std::move(second));
      ++count.changed;
    });
    if (behind.empty()) continue;
    for (Clip& clip : behind) track.clips.push_back(std::move(clip));
    sortByStart(track);
  }
  joinSets(session, pieces);
  return count;
}

EditCount fadeClips(Session& session, const ClipIds& ids, Frame in, Frame out) {
  return forEachFree(session, ids, [&](Clip& clip) {
    if (in >= 0) clip.fadeIn.length = in;
    if (out >= 0) clip.fadeOut.length = out;
    fitFades(clip);
  });
}

EditCount muteClips(Session& session, const ClipIds& ids, bool mute) {
  return forEachFree(session, ids, [&](Clip& clip) { clip.mute = mute; });
}

EditCount gainClips(Session& session, const ClipIds& ids, double byDb) {
  return forEachFree(session, ids, [&](Clip& clip) {
    clip.gainDb = std::clamp(clip.gainDb + byDb, kSilenceDb, kMaxGainDb);
  });
}

EditCount lockClips(Session& session, const ClipIds& ids, bool lock) {
  EditCount count;
  for (const ClipPlace place : placesOf(session, ids)) {
    session.tracks[place.track].clips[place.clip].lock = lock;
    ++count.changed;
  }
  return count;
}

ClipIds duplicateClips(Session& session, const ClipIds& ids) {
  ClipIds made;
  Frame start = kMaxFrame;
  Frame end = 0;
  for (const ClipPlace place : placesOf(session, ids)) {
    start = std::min(start, clipAt(session, place).start);
    end = std::max(end, clipAt(session, place).end());
  }
  if (end - start > kMaxFrame - end) return made;
  IdMaker maker(session);
  for (Track& track : session.tracks) {
    if (track.lock) continue;
    const std::size_t count = track.clips.size();
    for (std::size_t i = 0; i < count; ++i) {
      const Clip& clip = std::as_const(track.clips)[i];
      if (!ids.contains(clip.id)) continue;
      Clip copy = clip;
      copy.id = maker.next("c");
      renewIds(copy, maker);
      copy.start += end - start;
      copy.lock = false;
      made.insert(copy.id);
      track.clips.push_back(std::move(copy));
    }
    if (track.clips.size() != count) sortByStart(track);
  }
  return made;
}

EditCount deleteClips(Session& session, const ClipIds& ids) {
  EditCount count;
  ClipIds gone;
  for (Track& track : session.tracks) {
    for (const Clip& clip : track.clips) {
      if (!ids.contains(clip.id)) continue;
      const bool isLocked = track.lock || clip.lock;
      ++(isLocked ? count.locked : count.changed);
      if (!isLocked) gone.insert(clip.id);
    }
    track.clips.eraseIf([&](const Clip& clip) { return gone.contains(clip.id); });
  }
  const auto isGone = [&](const std::string& clip) { return gone.contains(clip); };
  std::unordered_set<std::string> emptied;
  changeWhere(
      session.clipSets,
      [&](const ClipSet& set) { return std::any_of(set.clips.begin(), set.clips.end(), isGone); },
      [&](ClipSet& set) {
        std::erase_if(set.clips, isGone);
        if (set.clips.empty() && !set.lock) emptied.insert(set.id);
      });
  session.clipSets.eraseIf([&](const ClipSet& set) { return emptied.contains(set.id); });
  return count;
}

}  // namespace octaphon
