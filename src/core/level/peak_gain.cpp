#include "level/peak_gain.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace octaphon {

static constexpr Frame kBefore = kShortTaps;

PeakGain::PeakGain(Frame ahead, int channels)
    : ahead_(ahead),
      recent_(static_cast<std::size_t>(channels), std::vector<float>(kBefore + kMostFrames, 0.0f)),
      averaged_(static_cast<std::size_t>(ahead), kOne),
      total_(static_cast<std::int64_t>(ahead) * kOne) {}

void PeakGain::run(const float* const* samples, Frame frames, double ceiling, const double* releases,
                   double* gains) {
  std::array<float, kMostFrames> peaks;
  findPeaks(samples, frames, peaks.data());
  for (Frame i = 0; i < frames; ++i)
    gains[i] = next(static_cast<double>(peaks[static_cast<std::size_t>(i)]), ceiling, releases[i]);
}

/// The largest magnitudes of all channels around the samples kShortDelay frames ago.
void PeakGain::findPeaks(const float* const* samples, Frame frames, float* peaks) {
  const Frame whole = (frames + kPhaseLanes - 1) / kPhaseLanes * kPhaseLanes;
  std::fill_n(peaks, whole, 0.0f);
  for (std::size_t c = 0; c < recent_.size(); ++c) {
    float* const now = recent_[c].data() + kBefore;
    std::copy_n(samples[c], frames, now);
    std::fill_n(now + frames, whole - frames, 0.0f);
    raisePeaks(now, whole, peaks);
    std::copy_n(now + frames - kBefore, kBefore, recent_[c].data());
  }
}

double PeakGain::next(double peak, double ceiling, double release) {
  constexpr std::int64_t kLeastStep = 1000;  // 10⁻⁹ a frame
  const auto wanted = static_cast<std::int64_t>(peak > ceiling ? ceiling / peak * kUnit : kUnit);
  const Frame window = ahead_ + kGuard - 1;
  while (!smallest_.empty() && smallest_.back().gain >= wanted) smallest_.pop_back();
  smallest_.push_back({count_, wanted});
  while (smallest_.front().at <= count_ - window) smallest_.pop_front();
  const std::int64_t held = smallest_.front().gain;
  const std::int64_t rest = held - envelope_;
  if (rest <= 0)
    envelope_ = held;
  else  // a decay that is cut to whole numbers would never arrive
    envelope_ += std::min(
        rest, std::max(kLeastStep, static_cast<std::int64_t>(static_cast<double>(rest) * (1 - release))));
  total_ += envelope_ - averaged_[slot_];
  averaged_[slot_] = envelope_;
  if (++slot_ == averaged_.size()) slot_ = 0;
  ++count_;
  return static_cast<double>(total_) / (kUnit * static_cast<double>(ahead_));
}

bool PeakGain::isAtRest(double rest) const {
  if (total_ != static_cast<std::int64_t>(ahead_) * kOne || smallest_.front().gain != kOne) return false;
  for (const std::vector<float>& history : recent_)
    for (Frame i = 0; i < kBefore; ++i)
      if (std::fabs(history[static_cast<std::size_t>(i)]) > rest) return false;
  return true;
}

}  // namespace octaphon
