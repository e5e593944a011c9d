#include "finish/limit.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "base/decibels.h"
#include "routing/mixing_law.h"

namespace octaphon {

static constexpr double kAheadSeconds = 0.0015;  // each of two stages
static constexpr double kReleaseSeconds = 0.1;
static constexpr Frame kTurn = PeakGain::kMostFrames;

Limit::Limit(int channels, int rate, double ceilingDb, Stage& next)
    : channels_(channels),
      ceiling_(gainOf(ceilingDb - kLimiterMarginDb)),
      limiter_(framesOf(kAheadSeconds, rate), channels),
      releases_(kTurn, std::exp(-1 / (kReleaseSeconds * rate))),
      waiting_(static_cast<std::size_t>(channels),
               std::vector<float>(static_cast<std::size_t>(limiter_.delay() + kTurn), 0.0f)),
      skipped_(limiter_.delay()),
      next_(next) {}

Result<> Limit::take(const SoundBlock& block) {
  static constexpr std::array<float, kTurn> kSilence{};
  for (Frame done = 0; done < block.frames; done += kTurn) {
    std::array<const float*, kMaxTapChannels> channels;
    for (int c = 0; c < channels_; ++c)
      channels[static_cast<std::size_t>(c)] = block.isSilent() ? kSilence.data() : block.channels[c] + done;
    OCTAPHON_TRY(takeTurn(channels.data(), std::min(kTurn, block.frames - done)));
  }
  return {};
}

Result<> Limit::takeTurn(const float* const* channels, Frame frames) {
  std::array<double, kTurn> gains;
  limiter_.run({channels, frames, nullptr, releases_.data()}, ceiling_, gains.data());
  std::array<std::array<float, kTurn>, kMaxTapChannels> limited;
  std::array<const float*, kMaxTapChannels> out;
  const Frame skip = std::min(skipped_, frames);
  skipped_ -= skip;
  for (std::size_t c = 0; c < waiting_.size(); ++c) {
    std::vector<float>& waiting = waiting_[c];
    std::copy_n(channels[c], frames, waiting.end() - kTurn);
    for (Frame i = 0; i < frames; ++i)
      limited[c].data()[i] =
          static_cast<float>(static_cast<double>(waiting[static_cast<std::size_t>(i)]) * gains.data()[i]);
    std::copy(waiting.begin() + frames, waiting.end(), waiting.begin());
    out[c] = limited[c].data() + skip;
  }
  return skip == frames ? Result<>{} : next_.take({out.data(), frames - skip});
}

Result<> Limit::end() {
  OCTAPHON_TRY(take({nullptr, limiter_.delay()}));
  return next_.end();
}

}  // namespace octaphon
