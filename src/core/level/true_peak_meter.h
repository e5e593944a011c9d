// The largest magnitude that a sound has between its samples too (ITU-R BS.1770-4, Annex 2): the top of a
// parabola through four times as many samples, which come from a windowed sinc of 512 taps. Shorter filters
// find the places where it is worth looking: those that are at most 4.4 dB under the largest half-way between
// samples, then 3 dB and 1.4 dB at four times as many.
#pragma once

#include <vector>

#include "base/frames.h"

namespace octaphon {

/// Belongs to one thread at a time.
class TruePeakMeter {
 public:
  explicit TruePeakMeter(int channels);

  /// The next frames, planar, full scale ±1; null: silence. Blocks may have any size.
  void take(const float* const* channels, Frame frames);
  /// The sound has ended: what rings on behind it.
  void end();
  /// Of all channels, full scale 1. Before end(), of all but the last 1 152 frames.
  double peak() const { return peak_; }

 private:
  void look();
  void lookAt(const float* turn);

  int channels_;
  std::vector<float> samples_;  // planar: what came before, then the frames that are held
  Frame held_ = 0;
  float peak_ = 0;
};

}  // namespace octaphon
