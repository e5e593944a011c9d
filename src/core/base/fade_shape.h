// How fades run: of clips, and of the edges of files.
#pragma once

#include "base/choices.h"

#include <array>

namespace octaphon {

/// How a fade's gain g runs over t from 0 to 1; a fade out runs the same way backwards.
enum class FadeShape {
  Linear,  ///< g = t
  Power,   ///< g = sin(π/2 · t): two crossing fades keep the power
  Smooth,  ///< g = (1 − cos(π · t)) / 2
  Slow,    ///< g = t²
  Fast,    ///< g = 1 − (1 − t)²
};
constexpr auto choicesOf(FadeShape) {
  return std::array<Choice<FadeShape>, 5>{
      {{FadeShape::Linear, "linear", "t", "Straight"},
       {FadeShape::Power, "power", "sin(π/2 · t)", "Even power"},
       {FadeShape::Smooth, "smooth", "(1 − cos(π · t)) / 2", "Smooth at both ends"},
       {FadeShape::Slow, "slow", "t²", "Slow beside the silence"},
       {FadeShape::Fast, "fast", "1 − (1 − t)²", "Fast beside the silence"}}};
}

/// Gain of a fade at t from 0 to 1, in [0, 1].
double fadeGain(FadeShape shape, double t);

}  // namespace octaphon
