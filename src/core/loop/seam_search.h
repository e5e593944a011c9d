// Better places for a loop near those that are asked for.
#pragma once

#include <functional>
#include <vector>

#include "loop/seam.h"

namespace octaphon {

/// Where a loop begins in a sound, and how long it is, in frames.
struct LoopPlace {
  Frame start = 0, length = 0;
  bool operator==(const LoopPlace&) const = default;
  Frame end() const { return start + length; }
};

struct LoopCandidate {
  LoopPlace place;
  Seam seam;
};

struct LoopSearch {
  Frame reach = 0;            ///< frames that beginning and end may move to either side
  bool isLengthKept = false;  ///< they move together
  std::size_t most = 8;       ///< candidates
};

/// How good a loop of a sound is.
using JudgeLoop = std::function<Seam(LoopPlace)>;

/// Candidates for a loop of `sound`, the best first; the asked place is among those that are compared, and
/// where nothing is better, the first. It has to lie in the sound, with at least one frame. Works in parallel
/// on the caller's TBB arena; what comes out does not depend on that.
/// `judge`: null: by its own lap alone.
std::vector<LoopCandidate> searchLoop(const Lap& sound, LoopPlace asked, const LoopSearch& search,
                                      const JudgeLoop& judge = {});

}  // namespace octaphon
