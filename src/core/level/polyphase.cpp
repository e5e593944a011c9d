#include "level/polyphase.h"

#include <algorithm>
#include <bit>
#include <cstdint>

#include "base/samples.h"

namespace octaphon {

const PhaseTaps<kShortTaps>& shortTaps() {
  static const auto taps = windowedSinc<kShortTaps>(
      [](int place, int length) { return 0.5 * (1 - std::cos(2 * std::numbers::pi * place / length)); });
  return taps;
}

namespace {

using Bits = std::int32_t __attribute__((vector_size(32)));  // magnitudes order like their bits

inline __attribute__((always_inline)) void raise(Bits& most, const PhaseLanes& lanes) {
  Bits bits;
  std::memcpy(&bits, &lanes, sizeof bits);
  bits &= 0x7FFFFFFF;
  most = bits > most ? bits : most;
}

}  // namespace

OCTAPHON_WIDE void raisePeaks(const float* in, Frame frames, float* peaks) {
  const PhaseTaps<kShortTaps>& taps = shortTaps();
  for (Frame at = 0; at < frames; at += kPhaseLanes) {
    PhaseLanes near[kPhases + 1];
    phasesOf(taps, in + at, near);
    std::memcpy(&near[kPhases - 1], in + at - kShortDelay, sizeof near[0]);
    std::memcpy(&near[kPhases], in + at - kShortDelay + 1, sizeof near[0]);
    Bits most;
    std::memcpy(&most, peaks + at, sizeof most);
    for (const PhaseLanes& lanes : near) raise(most, lanes);
    std::memcpy(peaks + at, &most, sizeof most);
  }
}

OCTAPHON_WIDE float largestByHalves(const float* in, Frame frames) {
  const std::array<float, kShortTaps>& taps = shortTaps()[kPhases / 2 - 1];  // the same from both ends
  Bits most{};
  for (Frame at = 0; at < frames; at += kPhaseLanes) {
    PhaseLanes half{}, before, behind;
#pragma GCC unroll 6
    for (std::size_t t = 0; t < kShortTaps / 2; ++t) {
      std::memcpy(&behind, in + at - t, sizeof behind);
      std::memcpy(&before, in + at - (kShortTaps - 1 - t), sizeof before);
      half += taps[t] * (before + behind);
    }
    std::memcpy(&before, in + at - kShortDelay, sizeof before);
    raise(most, half);
    raise(most, before);
  }
  std::int32_t largest = 0;
  for (std::size_t lane = 0; lane < kPhaseLanes; ++lane) largest = std::max(largest, most[lane]);
  return std::bit_cast<float>(largest);
}

}  // namespace octaphon
