// Whether layers add up: their sum against what they should give, measured on the float taps while a pass
// runs.
#pragma once

#include <algorithm>
#include <string>
#include <vector>

#include "signal/delay_line.h"
#include "signal/graph.h"

namespace octaphon {

inline constexpr double kSumToleranceDb = -120;  ///< a larger residual is a difference
inline constexpr double kExactSumDb = -200;      ///< reported for no residual at all

enum class SumVerdict { AddsUp, Differs, NotJudged };
std::string_view sumVerdictName(SumVerdict verdict);  ///< `adds-up`, `differs`, `not-judged`

/// Of one brief in one span.
struct SumOutcome {
  std::size_t brief = 0, span = 0;  ///< indices in the sheet, and in its brief
  SumVerdict verdict = SumVerdict::NotJudged;
  /// Peak of the residual relative to the louder of 0 dBFS and the loudest layer; 0 where it was not judged.
  double residualDb = 0;
  std::string text;  ///< for people
};

class SumMeter {
 public:
  /// `layers` and `reference` index the taps of the source; `frames` are measured from the file's first one
  /// on, at most; `wanted` of them have to be given.
  SumMeter(std::vector<std::size_t> layers, std::size_t reference, Frame frames, Frame wanted);

  /// Once, before the first block.
  void begin(const TapSource& source);
  /// So many frames are measured and no more.
  void endAt(Frame frames) { frames_ = wanted_ = std::min(frames_, frames); }
  /// The block that starts `at` frames after the file's first one.
  void take(const TapSource& source, Frame at, Frame frames);

  /// Frames from the file's first one that have to be given, once begun.
  Frame framesWanted() const { return wanted_ + latency_; }
  double residualDb() const;
  /// Why nothing can be said; empty where something can.
  const std::string& problem() const { return problem_; }

 private:
  void takeTurn(const std::vector<TapBlock>& blocks, Frame at, Frame from, Frame frames);
  void add(const float* const* sound, std::size_t index, Frame frames);

  std::vector<std::size_t> taps_;  // of the layers, then of the reference
  Frame frames_, wanted_;
  int channels_ = 0;
  Frame latency_ = 0;
  std::vector<DelayLine> delays_;  // of each tap
  std::vector<double> total_;      // planar, a turn
  std::vector<float> delayed_;
  double residual_ = 0, loudest_ = 1;
  std::string problem_;
};

}  // namespace octaphon
