// One lap of an endless sound: behind its last frame comes its first one again.
#pragma once

#include <vector>

#include "base/frames.h"

namespace octaphon {

struct Lap {
  int rate = 48000;                          ///< Hz
  std::vector<std::vector<float>> channels;  ///< all of one length, full scale ±1
  Frame splice = 0;                          ///< the frame before which its middle was left out; 0: none was

  Frame frames() const { return channels.empty() ? 0 : static_cast<Frame>(channels.front().size()); }
};

/// Its beginning and its end alone, `each` frames of both; the lap itself where it is not longer than that.
Lap aroundJoin(const Lap& lap, Frame each);

/// The lap that a player gives who begins the sound anew every `length` frames and lets the rest ring on:
/// from the frame `downbeat` on.
Lap overlaid(const Lap& sound, Frame downbeat, Frame length);

/// So many frames from `start` on; what lies outside is silence.
Lap partOf(const Lap& lap, Frame start, Frame frames);

/// Largest magnitude; 0 of no frames.
double peakOf(const Lap& lap);

}  // namespace octaphon
