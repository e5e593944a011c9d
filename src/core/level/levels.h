// How loud a sound is: everything that is measured of it.
#pragma once

#include <optional>

#include "level/programme_loudness.h"
#include "level/true_peak_meter.h"

namespace octaphon {

/// What has to be measured besides the peak of the samples.
struct LevelsAsked {
  bool truePeak = false;
  bool loudness = false;  ///< and its range
  bool operator==(const LevelsAsked&) const = default;
};

/// Nothing where it was not asked for, or cannot be judged. Silence is kSilenceDb, and has no range.
struct Levels {
  std::optional<double> peakDb;      ///< of samples, dBFS
  std::optional<double> truePeakDb;  ///< dBTP
  std::optional<double> lufs;        ///< programme loudness
  std::optional<double> rangeLu;     ///< loudness range
  bool operator==(const Levels&) const = default;

  bool isSilent() const;
  /// The same sound, louder by so much.
  Levels raised(double gainDb) const;
};

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
  float peak_ = 0;
  std::optional<TruePeakMeter> truePeak_;
  std::optional<ProgrammeLoudness> loudness_;
};

}  // namespace octaphon
