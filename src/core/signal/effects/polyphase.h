// Four times as many samples: a windowed sinc of 49 taps, in four phases of 12 (the first of them the sample
// itself). True peaks are looked for between samples in this way (ITU-R BS.1770-4, Annex 2).
#pragma once

#include <array>
#include <cmath>
#include <cstddef>
#include <numbers>

namespace octaphon {

inline constexpr int kPhases = 4;
inline constexpr int kPhaseTaps = 12;
inline constexpr int kPhaseDelay = 6;  ///< frames that the middle of the filter lies behind the newest sample

/// Taps of phases 1 … 3, the newest sample's first.
inline const std::array<std::array<float, kPhaseTaps>, kPhases - 1>& phaseTaps() {
  static const auto taps = [] {
    std::array<std::array<float, kPhaseTaps>, kPhases - 1> made{};
    constexpr int kLength = kPhases * kPhaseTaps;
    constexpr int kMiddle = kLength / 2;
    for (int phase = 1; phase < kPhases; ++phase)
      for (int tap = 0; tap < kPhaseTaps; ++tap) {
        const int j = tap * kPhases + phase;
        const double x = (j - kMiddle) * std::numbers::pi / kPhases;
        const double window = 0.5 * (1 - std::cos(2 * std::numbers::pi * j / kLength));
        made[static_cast<std::size_t>(phase - 1)][static_cast<std::size_t>(tap)] =
            static_cast<float>(x == 0 ? window : std::sin(x) / x * window);
      }
    return made;
  }();
  return taps;
}

}  // namespace octaphon
