// Four times as many samples, in four phases of which the first is the sample itself. True peaks are looked
// for between samples in this way (ITU-R BS.1770-4, Annex 2).
#pragma once

#include <array>
#include <cmath>
#include <cstddef>
#include <cstring>
#include <numbers>

#include "base/frames.h"

namespace octaphon {

inline constexpr int kPhases = 4;

/// Taps of phases 1 … 3, the newest sample's first: a windowed sinc. The middle of the filter lies kTaps / 2
/// frames behind the newest sample.
template <std::size_t kTaps>
using PhaseTaps = std::array<std::array<float, kTaps>, kPhases - 1>;

/// `window(place, length)` of places 0 … length is 1 in the middle.
template <std::size_t kTaps, class Window>
PhaseTaps<kTaps> windowedSinc(const Window& window) {
  PhaseTaps<kTaps> made{};
  constexpr int kLength = kPhases * static_cast<int>(kTaps);
  for (int phase = 1; phase < kPhases; ++phase)
    for (int tap = 0; tap < static_cast<int>(kTaps); ++tap) {
      const int place = tap * kPhases + phase;
      const double x = (place - kLength / 2) * std::numbers::pi / kPhases;
      const double weight = window(place, kLength);
      made[static_cast<std::size_t>(phase - 1)][static_cast<std::size_t>(tap)] =
          static_cast<float>(x == 0 ? weight : std::sin(x) / x * weight);
    }
  return made;
}

/// Eight frames at once.
using PhaseLanes = float __attribute__((vector_size(32)));
inline constexpr Frame kPhaseLanes = 8;

/// Phases 1 … 3 of the frames from `in` on; kTaps − 1 frames before them are heard. For functions that are
/// compiled for wide registers.
template <std::size_t kTaps>
inline __attribute__((always_inline)) void phasesOf(const PhaseTaps<kTaps>& taps, const float* in,
                                                    PhaseLanes* out) {
  for (std::size_t p = 0; p < kPhases - 1; ++p) out[p] = PhaseLanes{};
#pragma GCC unroll 32
  for (std::size_t t = 0; t < kTaps; ++t) {
    PhaseLanes sample;
    std::memcpy(&sample, in - t, sizeof sample);
    for (std::size_t p = 0; p < kPhases - 1; ++p) out[p] += taps[p][t] * sample;
  }
}

/// Short, for what is found roughly: 12 taps a phase under a window of Hann.
inline constexpr std::size_t kShortTaps = 12;
inline constexpr int kShortDelay = kShortTaps / 2;  ///< frames that its middle lies behind the newest sample
const PhaseTaps<kShortTaps>& shortTaps();

/// Raises each of `peaks` to the largest magnitude around the sample kShortDelay frames before in[i]: its
/// own, the next one's, and what lies between. `frames` is a multiple of 8; kShortTaps − 1 frames before `in`
/// are heard.
void raisePeaks(const float* in, Frame frames, float* peaks);

/// The largest magnitude of the samples from kShortDelay frames before in[0] on, and half-way to the next
/// ones. The same holds of `frames` and `in`.
float largestByHalves(const float* in, Frame frames);

}  // namespace octaphon
