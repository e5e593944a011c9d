// A brief for what someone points at.
#pragma once

#include <optional>

#include "edit/regions.h"
#include "session/session.h"

namespace octaphon {

/// Ids; what is first of these counts: regions, clip sets, tracks, clips, the stretch of time.
struct Aim {
  Ids regions, clipSets, clips, tracks;
  std::optional<TimeSpan> range;
};

/// As new ones begin, with a name after what it prints: spans of the mix; a track, group or return over its
/// own extent; a clip alone.
Brief aimedBrief(const Session& session, const Aim& aim);

}  // namespace octaphon
