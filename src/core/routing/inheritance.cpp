#include "routing/inheritance.h"

namespace octaphon {

int inkOf(const Session& session, const TrackTree& tree, Strip track) {
  for (; !track.isMain(); track = tree.parent(track))
    if (const int ink = session.tracks[track.track()].ink; ink != 0) return ink;
  return 0;
}

std::vector<std::string> groupsAbove(const Session& session, const TrackTree& tree, Strip track) {
  std::vector<std::string> ids;
  for (Strip up = tree.parent(track); !up.isMain(); up = tree.parent(up))
    ids.push_back(session.tracks[up.track()].id);
  return ids;
}

}  // namespace octaphon
