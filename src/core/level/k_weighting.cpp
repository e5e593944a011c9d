#include "level/k_weighting.h"

#include <cmath>
#include <numbers>
#include <utility>

namespace octaphon {

WeightingSection headShelf(int rate) {
  constexpr double kHertz = 1681.974450955533, kQ = 0.7071752369554196, kDb = 3.999843853973347;
  const double k = std::tan(std::numbers::pi * kHertz / rate);
  const double high = std::pow(10.0, kDb / 20), band = std::pow(high, 0.4996667741545416);
  const double a0 = 1 + k / kQ + k * k;
  return {(high + band * k / kQ + k * k) / a0, 2 * (k * k - high) / a0, (high - band * k / kQ + k * k) / a0,
          2 * (k * k - 1) / a0, (1 - k / kQ + k * k) / a0};
}

WeightingSection lowHighPass(int rate) {
  constexpr double kHertz = 38.13547087602444, kQ = 0.5003270373238773;
  const double k = std::tan(std::numbers::pi * kHertz / rate);
  const double a0 = 1 + k / kQ + k * k;
  return {1, -2, 1, 2 * (k * k - 1) / a0, (1 - k / kQ + k * k) / a0};
}

// Both sections of both channels go on beside each other: a sample waits for one product of its own past.
void KWeighting::addSquares(const float* first, const float* second, Frame frames, double* sums) {
  const auto both = [](double value) { return Pair{value, value}; };
  const Pair b0 = both(shelf_.b0), b1 = both(shelf_.b1), b2 = both(shelf_.b2);
  const Pair a1 = both(shelf_.a1), a2 = both(shelf_.a2), c1 = both(highPass_.a1), c2 = both(highPass_.a2);
  Past past = past_;
  auto& [x, y, z] = past;
  Pair sum{sums[0], sums[1]};
  const auto step = [&](Frame i, Pair& in1, Pair& in2, Pair& y1, Pair& y2, Pair& z1, Pair& z2) {
    const Pair in{static_cast<double>(first[i]), static_cast<double>(second[i])};
    const Pair shelved = (b0 * in + b1 * in1 + (b2 * in2 - a2 * y2)) - a1 * y1;
    const Pair passed = ((shelved - y1) - (y1 - y2) - c2 * z2) - c1 * z1;
    in2 = in, y2 = shelved, z2 = passed;  // they change places
    sum += passed * passed;
  };
  Frame i = 0;
  for (; i + 2 <= frames; i += 2) {
    step(i, x[0], x[1], y[0], y[1], z[0], z[1]);
    step(i + 1, x[1], x[0], y[1], y[0], z[1], z[0]);
  }
  if (i < frames) {
    step(i, x[0], x[1], y[0], y[1], z[0], z[1]);
    for (auto* two : {x, y, z}) std::swap(two[0], two[1]);
  }
  past_ = past;
  sums[0] = sum[0], sums[1] = sum[1];
}

}  // namespace octaphon
