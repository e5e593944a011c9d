#include "edit/selected_clips.h"

#include <algorithm>
#include <map>

#include "base/in_parallel.h"

namespace octaphon {

std::vector<ClipPlace> placesOf(const Session& session, const ClipIds& ids) {
  if (ids.empty()) return {};
  std::vector<std::vector<ClipPlace>> onTracks(session.tracks.size());
  inParallel(onTracks.size(), [&](std::size_t t) {
    const SharedList<Clip>& clips = session.tracks[t].clips;
    for (std::size_t c = 0; c < clips.size(); ++c)
      if (ids.contains(clips[c].id)) onTracks[t].push_back({t, c});
  });
  std::vector<ClipPlace> places;
  for (const std::vector<ClipPlace>& here : onTracks) places.insert(places.end(), here.begin(), here.end());
  return places;
}

bool isLocked(const Session& session, ClipPlace place) {
  return session.tracks[place.track].lock || clipAt(session, place).lock;
}

bool haveSameClips(const Session& a, const Session& b) {
  if (a.tracks.size() != b.tracks.size()) return false;
  std::vector<char> areSame(a.tracks.size());
  inParallel(areSame.size(), [&](std::size_t t) {
    const SharedList<Clip>&one = a.tracks[t].clips, &other = b.tracks[t].clips;
    areSame[t] =
        one.isSharedWith(other) || std::equal(one.begin(), one.end(), other.begin(), other.end(),
                                              [](const Clip& x, const Clip& y) { return x.id == y.id; });
  });
  return std::find(areSame.begin(), areSame.end(), 0) == areSame.end();
}

ClipIds withLinked(const Session& session, const ClipIds& ids) {
  ClipIds all = ids;
  std::map<int, std::vector<std::size_t>> links;
  for (std::size_t t = 0; t < session.tracks.size(); ++t)
    if (session.tracks[t].link > 0) links[session.tracks[t].link].push_back(t);
  for (const ClipPlace place : placesOf(session, ids)) {
    const int link = session.tracks[place.track].link;
    if (link == 0) continue;
    const Clip& chosen = clipAt(session, place);
    for (const std::size_t other : links[link]) {
      if (other == place.track) continue;
      for (const Clip& clip : session.tracks[other].clips) {
        const Frame shared = std::min(clip.end(), chosen.end()) - std::max(clip.start, chosen.start);
        if (shared * 2 > std::min(clip.length, chosen.length)) all.insert(clip.id);
      }
    }
  }
  return all;
}

ClipIds clipsIn(const Session& session, const TimeSpan& span) {
  ClipIds ids;
  for (const Track& track : session.tracks)
    for (const Clip& clip : track.clips)
      if (clip.start < span.end() && clip.end() > span.start) ids.insert(clip.id);
  return ids;
}

}  // namespace octaphon
