// A limiter of true peaks with a gain before it; it gives both as one gain.
#include <algorithm>
#include <array>
#include <cmath>

#include "base/decibels.h"
#include "level/peak_limiter.h"
#include "routing/mixing_law.h"
#include "signal/effects/effects.h"

namespace octaphon {
namespace {

enum : std::size_t { Gain, Ceiling, Release };
constexpr Frame kTurn = PeakGain::kMostFrames;
static_assert(PeakGain::kGuard - 1 + 2 * kShortDelay - 2 == 22, "latencyFrames of the table");

class Limiter : public Processor {
 public:
  explicit Limiter(EffectSetting setting)
      : Processor(std::move(setting)),
        limiter_(framesOf(setting_.info->latencySeconds / 2, setting_.rate), setting_.channels),
        ceiling_(gainOf(setting_.at(Ceiling, 0) - kLimiterMarginDb)) {}

  void process(const float* const* in, float* const* out, Frame at, Frame frames) override {
    for (Frame done = 0; done < frames; done += kTurn) {
      const float* from[kMaxMixChannels];
      for (int c = 0; c < setting_.channels; ++c) from[c] = in[c] + done;
      processTurn(from, out[0] + done, at + done, std::min(kTurn, frames - done));
    }
  }

  bool isAtRest() const override { return limiter_.isAtRest(kRest); }
  void reset() override { limiter_.reset(); }
  std::unique_ptr<Processor> clone() const override { return std::make_unique<Limiter>(*this); }

 private:
  void processTurn(const float* const* in, float* out, Frame at, Frame frames) {
    std::array<double, kTurn> before, releases, gains;
    followParameters(at, frames, before.data(), releases.data());
    std::array<std::array<float, kTurn>, kMaxMixChannels> loud;
    const float* samples[kMaxMixChannels];
    for (int c = 0; c < setting_.channels; ++c) {
      float* const to = loud[static_cast<std::size_t>(c)].data();
      for (Frame i = 0; i < frames; ++i)
        to[i] = static_cast<float>(static_cast<double>(in[c][i]) * before.data()[i]);
      samples[c] = to;
    }
    limiter_.run({samples, frames, before.data(), releases.data()}, ceiling_, gains.data());
    for (Frame i = 0; i < frames; ++i) out[i] = static_cast<float>(gains.data()[i]);
  }

  void followParameters(Frame at, Frame frames, double* before, double* releases) const {
    const Frame steps = setting_.isConstant() ? 1 : frames;
    for (Frame i = 0; i < steps; ++i) {
      before[i] = gainOf(setting_.at(Gain, at + i));
      releases[i] = std::exp(-1000 / (setting_.at(Release, at + i) * setting_.rate));
    }
    std::fill(before + steps, before + frames, before[0]);
    std::fill(releases + steps, releases + frames, releases[0]);
  }

  PeakLimiter limiter_;
  double ceiling_;
};

}  // namespace

std::unique_ptr<Processor> makeLimiter(EffectSetting setting) {
  return std::make_unique<Limiter>(std::move(setting));
}

}  // namespace octaphon
