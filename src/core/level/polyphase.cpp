#include "level/polyphase.h"

#include <cstdint>

#include "base/samples.h"

namespace octaphon {

const PhaseTaps<kShortTaps>& shortTaps() {
  static const auto taps = windowedSinc<kShortTaps>(
      [](int place, int length) { return 0.5 * (1 - std::cos(2 * std::numbers::pi * place / length)); });
  return taps;
}

OCTAPHON_WIDE void raisePeaks(const float* in, Frame frames, float* peaks) {
  using Bits = std::int32_t __attribute__((vector_size(32)));  // magnitudes order like their bits
  const PhaseTaps<kShortTaps>& taps = shortTaps();
  for (Frame at = 0; at < frames; at += kPhaseLanes) {
    PhaseLanes near[kPhases + 1];
    phasesOf(taps, in + at, near);
    std::memcpy(&near[kPhases - 1], in + at - kShortDelay, sizeof near[0]);
    std::memcpy(&near[kPhases], in + at - kShortDelay + 1, sizeof near[0]);
    Bits most;
    std::memcpy(&most, peaks + at, sizeof most);
    for (const PhaseLanes& lanes : near) {
      Bits bits;
      std::memcpy(&bits, &lanes, sizeof bits);
      bits &= 0x7FFFFFFF;
      most = bits > most ? bits : most;
    }
    std::memcpy(peaks + at, &most, sizeof most);
  }
}

}  // namespace octaphon
