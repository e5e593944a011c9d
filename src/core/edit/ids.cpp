#include "edit/ids.h"

namespace octaphon {

IdMaker::IdMaker(const Session& session) {
  const auto takeAll = [&](const auto& list) {
    for (const auto& thing : list) taken_.insert(thing.id);
  };
  takeAll(session.media);
  takeAll(session.tracks);
  takeAll(session.regions);
  takeAll(session.markerSets);
  takeAll(session.clipSets);
  takeAll(session.briefs);
  for (const Track& track : session.tracks) {
    takeAll(track.clips);
    takeAll(track.inserts);
    takeAll(track.sends);
    for (const Clip& clip : track.clips) takeAll(clip.inserts);
  }
  takeAll(session.main.inserts);
  for (const MarkerSet& set : session.markerSets) takeAll(set.markers);
  // A clip set may still name clips that are gone: a new clip must not become its member.
  for (const ClipSet& set : session.clipSets) taken_.insert(set.clips.begin(), set.clips.end());
}

std::string IdMaker::next(std::string_view kind) {
  unsigned long& number = last_[std::string(kind)];
  for (;;) {
    std::string id = std::string(kind) + std::to_string(++number);
    if (taken_.insert(id).second) return id;
  }
}

bool IdMaker::take(const std::string& id) { return isAllowedId(id) && taken_.insert(id).second; }

}  // namespace octaphon
