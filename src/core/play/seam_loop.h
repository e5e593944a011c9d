// The join of a loop as it is listened to: what runs into the end and what begins again, over and over.
#pragma once

#include <vector>

#include "loop/heard_loop.h"

namespace octaphon {

struct SeamLoop {
  int rate = 48000;           ///< Hz
  std::vector<float> stereo;  ///< interleaved, on two loudspeakers; never empty
  Frame join = 0;             ///< frames of it before the join
  // Where that is on the session's clock, for who follows the sound.
  Frame beforeJoin = 0;  ///< of its first frame
  Frame behindJoin = 0;  ///< of the first one behind the join

  Frame frames() const { return static_cast<Frame>(stereo.size() / 2); }
};

/// So many seconds on either side of the join, less of a shorter loop. Faded for a few milliseconds where it
/// comes round: nothing else may click but the join. The place must be held; its frames are the session's.
SeamLoop seamLoopOf(const HeardLoop& heard, LoopPlace place, double seconds);
/// The whole lap, of which all must be held, from so many seconds before the join on.
SeamLoop lapLoopOf(const HeardLoop& heard, LoopPlace place, double seconds);

}  // namespace octaphon
