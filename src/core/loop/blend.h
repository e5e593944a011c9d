// A crossfade between two sounds: what runs into the end of a loop, and what comes before its beginning.
#pragma once

#include <cmath>
#include <numbers>

#include "loop/lap.h"

namespace octaphon {

/// How alike two sounds of one length are, over all channels: −1 … 1; 1 where both are silent.
double correlationOf(const Lap& a, const Lap& b);

/// Sounds that are at least so alike keep their level when gains add up to 1; others, when squares do.
inline constexpr double kAlike = 0.5;

/// Gains of the sound that goes and of the one that comes, at a place 0 … 1 of the crossfade.
struct BlendGains {
  double going, coming;
};
inline BlendGains equalGain(double place) { return {1 - place, place}; }
inline BlendGains equalPower(double place) {
  return {std::cos(place * std::numbers::pi / 2), std::sin(place * std::numbers::pi / 2)};
}

}  // namespace octaphon
