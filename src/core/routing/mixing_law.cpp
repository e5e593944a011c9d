#include "routing/mixing_law.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace octaphon {
namespace {

struct Sides {
  double left;
  double right;
};

Sides constantPower(double pan) {
  if (pan <= -1) return {1, 0};
  if (pan >= 1) return {0, 1};
  const double angle = (pan + 1) * std::numbers::pi / 4;
  return {std::cos(angle), std::sin(angle)};
}

Sides balance(double pan) { return {std::min(1.0, 1 - pan), std::min(1.0, 1 + pan)}; }

}  // namespace

bool MixMatrix::isIdentity() const {
  if (inputs != outputs) return false;
  for (std::size_t out = 0; out < static_cast<std::size_t>(outputs); ++out)
    for (std::size_t in = 0; in < static_cast<std::size_t>(inputs); ++in)
      if (gain[out][in] != (in == out ? 1.0 : 0.0)) return false;
  return true;
}

bool MixMatrix::isSilent() const {
  return std::all_of(gain.begin(), gain.end(), [](const auto& row) { return row[0] == 0 && row[1] == 0; });
}

MixMatrix mixMatrix(int inputs, int outputs, double gain, double pan) {
  MixMatrix matrix{inputs, outputs, {}};
  if (inputs == 1 && outputs == 1) {
    matrix.gain[0][0] = gain;
  } else if (inputs == 1) {
    const Sides sides = constantPower(pan);
    matrix.gain[0][0] = gain * sides.left;
    matrix.gain[1][0] = gain * sides.right;
  } else if (outputs == 1) {
    const Sides sides = balance(pan);
    matrix.gain[0] = {gain * sides.left / 2, gain * sides.right / 2};
  } else {
    const Sides sides = balance(pan);
    matrix.gain[0][0] = gain * sides.left;
    matrix.gain[1][1] = gain * sides.right;
  }
  return matrix;
}

}  // namespace octaphon
