// Measures how loud a sound is.
#pragma once

#include "level/levels.h"
#include "level/programme_loudness.h"
#include "level/true_peak_meter.h"

namespace octaphon {

/// Belongs to one thread at a time; denormals should be flushed.
class LevelMeter {
 public:
  /// `rate` in Hz.
  LevelMeter(int channels, int rate, LevelsAsked asked);

  /// The next frames, planar, full scale ±1; null: silence.
  void take(const float* const* channels, Frame frames);
  /// The sound has ended.
  void end();
  /// After end().
  Levels levels() const;

 private:
  int channels_;
  LevelsAsked asked_;
  float peak_ = 0;
  std::optional<TruePeakMeter> truePeak_;
  std::optional<ProgrammeLoudness> loudness_;
};

}  // namespace octaphon
