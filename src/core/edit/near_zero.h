// The place nearest to a frame where a sound goes through zero: edges there click least.
#pragma once

#include <optional>

#include "media/media_facts.h"
#include "session/session.h"
#include "session/strip.h"

namespace octaphon {

/// Looks at the clip that sounds at `at` on `track` (none: on the first track that has one) within
/// `reach` frames on both sides: the first frame of a new sign, of the sum of the channels that play. Nothing
/// where no clip sounds there, none goes through zero, or its medium has to be converted first.
std::optional<Frame> nearestZero(const Session& session, const MediaFacts& facts, Frame at,
                                 std::optional<Strip> track, Frame reach);

}  // namespace octaphon
