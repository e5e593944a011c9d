// Where something begins in a lap: how much louder each of eight bands gets, step by step (half-wave
// rectified flux of log magnitudes; S. Dixon, "Onset Detection Revisited", DAFx 2006).
#pragma once

#include <array>
#include <vector>

#include "loop/lap.h"

namespace octaphon {

inline constexpr std::size_t kOnsetBands = 8;
using BandValues = std::array<double, kOnsetBands>;  ///< octaves, the lowest from about 90 Hz on

/// A lap in steps of some 3 ms; behind the last one comes the first again.
struct Onsets {
  Frame hop = 0;                      ///< frames of a step
  double hopSeconds = 0;              ///< of a step
  Frame splice = 0;                   ///< the step before which the lap's middle was left out; 0: none was
  std::vector<BandValues> magnitude;  ///< by step: in a window of four steps around it, all channels together
  std::vector<BandValues> rise;       ///< by step: of the logarithm against two steps before; 0 or more
  std::vector<double> strength;       ///< by step: of all bands

  Frame steps() const { return static_cast<Frame>(strength.size()); }
  /// Of any step, laps before and after included.
  std::size_t wrapped(Frame step) const {
    return static_cast<std::size_t>((step % steps() + steps()) % steps());
  }
  /// The strongest of steps in reach of the join.
  double atJoin(Frame reach) const;
};

Onsets onsetsOf(const Lap& lap);

}  // namespace octaphon
