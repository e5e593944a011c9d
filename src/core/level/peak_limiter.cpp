#include "level/peak_limiter.h"

#include <array>
#include <cmath>

namespace octaphon {

static constexpr std::size_t kMostChannels = 32;

PeakLimiter::PeakLimiter(Frame ahead, int channels)
    : ahead_(ahead),
      first_(ahead, channels),
      second_(ahead, channels),
      waiting_(static_cast<std::size_t>(channels), Waiting<float>(PeakGain::delayOf(ahead), 0.0f)),
      firstGains_(PeakGain::delayOf(ahead), 1.0) {}

void PeakLimiter::run(const LimiterTurn& turn, double ceiling, double* gains) {
  std::array<std::array<float, PeakGain::kMostFrames>, kMostChannels> limited;
  std::array<const float*, kMostChannels> softer;
  double* const first = firstGains_.next();
  first_.run(turn.samples, turn.frames, ceiling, turn.releases, first);
  for (std::size_t c = 0; c < waiting_.size(); ++c) {
    std::copy_n(turn.samples[c], turn.frames, waiting_[c].next());
    const float* const waited = waiting_[c].waited();
    for (Frame i = 0; i < turn.frames; ++i)
      limited[c][static_cast<std::size_t>(i)] = static_cast<float>(static_cast<double>(waited[i]) * first[i]);
    waiting_[c].passOn(turn.frames);
    softer[c] = limited[c].data();
  }
  std::array<double, PeakGain::kMostFrames> second;
  second_.run(softer.data(), turn.frames, ceiling, turn.releases, second.data());
  const double* const waited = firstGains_.waited();
  for (Frame i = 0; i < turn.frames; ++i) {
    const double before = turn.factors == nullptr ? waited[i] : turn.factors[i] * waited[i];
    gains[i] = before * second[static_cast<std::size_t>(i)];
  }
  firstGains_.passOn(turn.frames);
}

bool PeakLimiter::isAtRest(double rest) const {
  const auto isQuiet = [rest](float sample) { return std::fabs(sample) <= rest; };
  return std::all_of(waiting_.begin(), waiting_.end(),
                     [&](const Waiting<float>& waiting) { return waiting.isAll(isQuiet); }) &&
         firstGains_.isAll([](double gain) { return gain == 1; }) && first_.isAtRest(rest) &&
         second_.isAtRest(rest);
}

}  // namespace octaphon
