// A limiter of true peaks: two stages of the same kind, one after the other. A gain that moves makes new
// peaks between samples, far smaller ones, and the second stage takes those.
#pragma once

#include <algorithm>
#include <vector>

#include "level/peak_gain.h"

namespace octaphon {

inline constexpr double kLimiterMarginDb = 0.1;  ///< what other meters of true peaks may find above ours

/// Of PeakLimiter, of so many frames and channels.
struct LimiterTurn {
  const float* const* samples = nullptr;  ///< planar, as loud as they are to be
  Frame frames = 0;                       ///< PeakGain::kMostFrames at most
  const double* factors = nullptr;        ///< that gains are multiplied by; null: none
  const double* releases = nullptr;       ///< of each frame, what is left of a gain's way back after it
};

/// Belongs to one thread at a time; its state is a value.
class PeakLimiter {
 public:
  /// It sees twice `ahead` frames.
  PeakLimiter(Frame ahead, int channels);

  /// Frames that it lags behind.
  Frame delay() const { return 2 * PeakGain::delayOf(ahead_); }
  /// Gains for the frames delay() frames ago. `ceiling` as a factor.
  void run(const LimiterTurn& turn, double ceiling, double* gains);
  /// Whether it gives 1 as long as silence comes; `rest`: what is not louder is silence.
  bool isAtRest(double rest) const;
  void reset() { *this = PeakLimiter(ahead_, static_cast<int>(waiting_.size())); }

 private:
  /// What waits: a fixed number of frames that came before, then those of a turn.
  template <class Sample>
  class Waiting {
   public:
    Waiting(Frame frames, Sample rest)
        : samples_(static_cast<std::size_t>(frames + PeakGain::kMostFrames), rest) {}
    /// Where the next frames go.
    Sample* next() { return samples_.data() + samples_.size() - PeakGain::kMostFrames; }
    /// Those that have waited long enough, as many as have come.
    const Sample* waited() const { return samples_.data(); }
    void passOn(Frame frames) { std::copy(samples_.begin() + frames, samples_.end(), samples_.begin()); }
    template <class Is>
    bool isAll(const Is& is) const {
      return std::all_of(samples_.begin(), samples_.end() - PeakGain::kMostFrames, is);
    }

   private:
    std::vector<Sample> samples_;
  };

  Frame ahead_;
  PeakGain first_, second_;
  std::vector<Waiting<float>> waiting_;  // by channel: what waits for the first gain
  Waiting<double> firstGains_;           // first gains that wait for the second
};

}  // namespace octaphon
