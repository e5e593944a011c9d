// How loud a sound is, as far as it was measured.
#pragma once

#include <optional>

namespace octaphon {

/// What has to be measured besides the peak of the samples.
struct LevelsAsked {
  bool truePeak = false;
  bool loudness = false;  ///< and its range
  bool operator==(const LevelsAsked&) const = default;
  LevelsAsked with(LevelsAsked more) const { return {truePeak || more.truePeak, loudness || more.loudness}; }
};

/// Nothing where it was not asked for, or cannot be judged. Silence is kSilenceDb, and has no range.
struct Levels {
  LevelsAsked measured = {};
  std::optional<double> peakDb;      ///< of samples, dBFS
  std::optional<double> truePeakDb;  ///< dBTP
  std::optional<double> lufs;        ///< programme loudness
  std::optional<double> rangeLu;     ///< loudness range
  bool operator==(const Levels&) const = default;

  bool isSilent() const;
  /// Whether all that is asked for was measured. What cannot be judged was.
  bool answers(LevelsAsked asked) const;
  /// The same sound, louder by so much.
  Levels raised(double gainDb) const;
  /// To hundredths.
  Levels rounded() const;
};

}  // namespace octaphon
