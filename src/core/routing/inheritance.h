// What a track has from the groups it is in.
#pragma once

#include <string>
#include <vector>

#include "routing/track_tree.h"
#include "session/session.h"

namespace octaphon {

/// Ink that a track is drawn in: its own, or that of the nearest group that has one; 0 where none has.
int inkOf(const Session& session, const TrackTree& tree, Strip track);
/// Ids of the groups it is in, the nearest first.
std::vector<std::string> groupsAbove(const Session& session, const TrackTree& tree, Strip track);

}  // namespace octaphon
