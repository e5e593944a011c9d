// One stage of a limiter: the gain that keeps true peaks at a ceiling. It finds the peak around each sample,
// and from it the gain that is wanted; holds the smallest of a stretch of time, lets it go with the release,
// and averages it over the time that it looks ahead, so that the gain is there when the peak comes.
#pragma once

#include <cstdint>
#include <deque>
#include <vector>

#include "base/frames.h"
#include "level/polyphase.h"

namespace octaphon {

/// Belongs to one thread at a time; its state is a value.
class PeakGain {
 public:
  static constexpr Frame kMostFrames = 256;  ///< that are given at once
  static constexpr Frame kGuard = 13;        ///< frames in which the gain rests around a peak

  PeakGain(Frame ahead, int channels);

  /// Frames that it lags behind: it sees `ahead` frames, half the guard, and half the filter of peaks.
  static constexpr Frame delayOf(Frame ahead) { return ahead - 1 + (kGuard - 1) / 2 + kShortDelay; }

  /// Takes the next samples, planar; gives the gains for those delayOf(ahead) frames ago. `releases`: of each
  /// frame, what is left of a gain's way back after it.
  void run(const float* const* samples, Frame frames, double ceiling, const double* releases, double* gains);

  /// Whether it gives 1 as long as silence comes.
  bool isAtRest(double rest) const;
  void reset() { *this = PeakGain(ahead_, static_cast<int>(recent_.size())); }

 private:
  static constexpr double kUnit = 1099511627776.0;  // 2^40: averages of whole numbers have no drift
  static constexpr auto kOne = static_cast<std::int64_t>(kUnit);
  struct Wanted {
    Frame at;
    std::int64_t gain;
  };
  void findPeaks(const float* const* samples, Frame frames, float* peaks);
  double next(double peak, double ceiling, double release);

  Frame ahead_;
  std::vector<std::vector<float>>
      recent_;  // by channel: kShortTaps frames that came before, and room for more
  std::deque<Wanted> smallest_{{-1, kOne}};
  std::int64_t envelope_ = kOne;
  std::vector<std::int64_t> averaged_;
  std::int64_t total_;
  std::size_t slot_ = 0;  // of averaged_
  Frame count_ = 0;
};

}  // namespace octaphon
