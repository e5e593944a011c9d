// From floating point to the samples of a file, once.
//
// Integers: a cell of 256 frames whose samples are all on the target's grid is written as it is; any other
// gets triangular (TPDF) dither of ±1 step before rounding (Lipshitz, Wannamaker, Vanderkooy 1992), except
// over runs of exact zero. The noise is a function of (row, channel, frame). Over full scale is saturated and
// counted.
#pragma once

#include <cstdint>
#include <string_view>

#include "base/frames.h"

namespace octaphon {

inline constexpr Frame kQuantiseCell = 256;
inline constexpr Frame kZeroRun = 8;  ///< frames of exact zero that make a run, looked for inside a cell

struct Level {
  float peak = 0;             ///< largest magnitude, full scale 1
  std::uint64_t clipped = 0;  ///< samples that were saturated
  bool finite = true;         ///< false once a sample was NaN or infinite
};

/// One channel of one row.
class Quantiser {
 public:
  /// `bits` 2 … 24.
  Quantiser(int bits, std::string_view rowKey, int channel);

  /// Writes `frames` integers of `bits` bits. `first` is the row's frame of in[0], a multiple of
  /// kQuantiseCell. Writes nothing where the level is not finite.
  void run(const float* in, Frame first, Frame frames, std::int32_t* out, Level& level) const;

 private:
  bool isOnGrid(const float* in, Frame frames) const;
  void saturated(const float* in, Frame first, Frame frames, std::int32_t* out, Level& level) const;
  static void clearSilence(const float* in, Frame frames, std::int32_t* out);

  std::int32_t highest_;  // largest integer
  float scale_;           // steps in full scale
  std::uint64_t stream_;
};

/// Peak and finiteness of samples that are written as they are.
void measure(const float* in, Frame frames, Level& level);

}  // namespace octaphon
