// Two stages of the same kind, one after the other: a gain that moves makes new peaks between samples, far
// smaller ones, and the second stage takes those.
#include <algorithm>
#include <array>
#include <cmath>

#include "base/decibels.h"
#include "signal/effects/effects.h"
#include "signal/effects/peak_gain.h"

namespace octaphon {
namespace {

enum : std::size_t { Gain, Ceiling, Release };
constexpr double kMarginDb = 0.1;  // what other meters of true peaks may find above ours
constexpr Frame kTurn = PeakGain::kMostFrames;

/// What waits for its gain: a fixed number of frames that came before, then those of a turn.
template <class Sample>
class Waiting {
 public:
  explicit Waiting(Frame frames, Sample rest)
      : rest_(rest), samples_(static_cast<std::size_t>(frames + kTurn), rest) {}

  /// Where the next frames go.
  Sample* next() { return samples_.data() + samples_.size() - kTurn; }
  /// Those that have waited long enough, as many as have come.
  const Sample* waited() const { return samples_.data(); }
  void passOn(Frame frames) { std::copy(samples_.begin() + frames, samples_.end(), samples_.begin()); }
  template <class Is>
  bool isAll(const Is& is) const {
    return std::all_of(samples_.begin(), samples_.end() - kTurn, is);
  }
  void reset() { std::fill(samples_.begin(), samples_.end(), rest_); }

 private:
  Sample rest_;
  std::vector<Sample> samples_;
};

class Limiter : public Processor {
 public:
  explicit Limiter(EffectSetting setting)
      : Processor(std::move(setting)),
        ahead_(framesOf(setting_.info->latencySeconds / 2, setting_.rate)),
        first_(ahead_, setting_.channels),
        second_(ahead_, setting_.channels),
        waiting_(static_cast<std::size_t>(setting_.channels),
                 Waiting<float>(PeakGain::delayOf(ahead_), 0.0f)),
        firstGains_(PeakGain::delayOf(ahead_), 1.0),
        ceiling_(gainOf(setting_.at(Ceiling, 0) - kMarginDb)) {
    static_assert(PeakGain::kGuard - 1 + 2 * kShortDelay - 2 == 22, "latencyFrames of the table");
  }

  void process(const float* const* in, float* const* out, Frame at, Frame frames) override {
    for (Frame done = 0; done < frames; done += kTurn) {
      const float* from[8];
      for (int c = 0; c < setting_.channels; ++c) from[c] = in[c] + done;
      processTurn(from, out[0] + done, at + done, std::min(kTurn, frames - done));
    }
  }

  bool isAtRest() const override {
    return std::all_of(waiting_.begin(), waiting_.end(),
                       [](const Waiting<float>& waiting) {
                         return waiting.isAll([](float sample) { return std::fabs(sample) <= kRest; });
                       }) &&
           firstGains_.isAll([](double gain) { return gain == 1; }) && first_.isAtRest(kRest) &&
           second_.isAtRest(kRest);
  }
  void reset() override {
    first_.reset(), second_.reset();
    for (Waiting<float>& waiting : waiting_) waiting.reset();
    firstGains_.reset();
  }
  std::unique_ptr<Processor> clone() const override { return std::make_unique<Limiter>(*this); }

 private:
  void processTurn(const float* const* in, float* out, Frame at, Frame frames) {
    std::array<double, kTurn> before, releases, second;
    followParameters(at, frames, before.data(), releases.data());
    std::array<std::array<float, kTurn>, 8> limited;
    const float *loud[8], *limitedAt[8];
    for (std::size_t c = 0; c < waiting_.size(); ++c) {
      float* const next = waiting_[c].next();
      for (Frame i = 0; i < frames; ++i)
        next[i] = static_cast<float>(static_cast<double>(in[c][i]) * before[static_cast<std::size_t>(i)]);
      loud[c] = next;
      limitedAt[c] = limited[c].data();
    }
    double* const first = firstGains_.next();
    first_.run(loud, frames, ceiling_, releases.data(), first);
    for (std::size_t c = 0; c < waiting_.size(); ++c) {
      const float* const waited = waiting_[c].waited();
      for (Frame i = 0; i < frames; ++i)
        limited[c][static_cast<std::size_t>(i)] =
            static_cast<float>(static_cast<double>(waited[i]) * first[i]);
      waiting_[c].passOn(frames);
    }
    second_.run(limitedAt, frames, ceiling_, releases.data(), second.data());
    const double* const waited = firstGains_.waited();
    for (Frame i = 0; i < frames; ++i) {
      const auto at_ = static_cast<std::size_t>(i);
      out[i] = static_cast<float>(before[at_] * waited[i] * second[at_]);
    }
    firstGains_.passOn(frames);
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

  Frame ahead_;
  PeakGain first_, second_;
  std::vector<Waiting<float>> waiting_;  // by channel: what waits for the first gain
  Waiting<double> firstGains_;           // first gains that wait for the second
  double ceiling_;
};

}  // namespace

std::unique_ptr<Processor> makeLimiter(EffectSetting setting) {
  return std::make_unique<Limiter>(std::move(setting));
}

}  // namespace octaphon
