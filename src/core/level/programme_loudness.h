// How loud a sound is as a whole, and over what range (ITU-R BS.1770-4; EBU Tech 3342).
#pragma once

#include <optional>
#include <vector>

#include "base/frames.h"
#include "level/k_weighting.h"

namespace octaphon {

/// What a channel counts for, from 0 on, in the order of mixing_law.h: 1.41 at the sides, nothing of LFE,
/// else 1 (BS.1770-4, Annex 3). Of more than 8 channels each counts 1.
double loudnessWeight(int channels, int channel);

/// Belongs to one thread at a time; denormals should be flushed.
class ProgrammeLoudness {
 public:
  /// `rate` in Hz.
  ProgrammeLoudness(int channels, int rate);

  /// The next frames, planar, full scale ±1; null: silence. Blocks may have any size.
  void take(const float* const* channels, Frame frames);

  /// In LUFS, of the blocks of 400 ms that pass both gates, −70 LUFS and 10 LU under their mean; nothing
  /// where none does: it is too short or too quiet to be judged.
  std::optional<double> integrated() const;
  /// In LUFS, of each stretch of 400 ms, which begin every 100 ms, without a gate (momentary loudness: EBU
  /// Tech 3341); −∞ of silence.
  std::vector<double> momentary() const;
  /// In LU, from the quietest tenth to the loudest twentieth of the stretches of 3 s that are over −70 LUFS
  /// and over 20 LU under their mean; nothing where there is none.
  std::optional<double> range() const;

 private:
  void takeStep(const float* const* channels, Frame frames);
  void endStep();
  /// Mean squares over so many steps, from each step on, of those over `least`.
  std::vector<double> meansOver(std::size_t steps, double least) const;

  int channels_, rate_;
  std::vector<KWeighting> pairs_;
  std::vector<double> sums_;     // of squares in this step, by channel, an even number of them
  Frame taken_ = 0, begun_ = 0;  // frames; where this step began
  std::vector<double> steps_;    // weighted mean squares of 100 ms each
};

}  // namespace octaphon
