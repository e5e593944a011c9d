#include "base/fade_shape.h"

#include <cmath>
#include <numbers>

namespace octaphon {

double fadeGain(FadeShape shape, double t) {
  constexpr double kPi = std::numbers::pi;
  switch (shape) {
    case FadeShape::Linear: return t;
    case FadeShape::Power: return std::sin(kPi / 2 * t);
    case FadeShape::Smooth: return (1 - std::cos(kPi * t)) / 2;
    case FadeShape::Slow: return t * t;
    case FadeShape::Fast: return 1 - (1 - t) * (1 - t);
  }
  return t;
}

}  // namespace octaphon
