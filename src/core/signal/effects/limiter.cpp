// Two stages of the same kind, one after the other. A stage finds the true peak around each sample, and from
// it the gain that keeps it at the ceiling; holds the smallest of a stretch of time, lets it go with the
// release, and averages it over the time that it looks ahead, so that the gain is there when the peak comes.
// A gain that moves makes new peaks between samples, far smaller ones: the second stage takes those.
#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <deque>

#include "base/decibels.h"
#include "signal/effects/effects.h"
#include "signal/effects/polyphase.h"

namespace octaphon {
namespace {

enum : std::size_t { Gain, Ceiling, Release };
constexpr int kGuard = 13;                 // frames in which the gain rests around a peak
constexpr double kMarginDb = 0.1;          // what other meters of true peaks may find above ours
constexpr double kUnit = 1099511627776.0;  // 2^40: averages of whole numbers have no drift

/// Frames a stage lags behind: it sees `ahead` frames, the guard's half, and half the peak filter.
constexpr Frame stageDelay(Frame ahead) { return ahead - 1 + (kGuard - 1) / 2 + kPhaseDelay; }

class Stage {
 public:
  Stage(Frame ahead, int channels)
      : ahead_(ahead),
        recent_(static_cast<std::size_t>(channels)),
        averaged_(static_cast<std::size_t>(ahead), kOne) {
    total_ = static_cast<std::int64_t>(ahead) * kOne;
  }

  /// Takes the next sample of each channel; gives the gain for the one stageDelay() frames ago.
  double step(const float* sample, double ceiling, double release) {
    const double peak = peakOf(sample);
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
    auto& slot = averaged_[static_cast<std::size_t>(count_ % ahead_)];
    total_ += envelope_ - slot;
    slot = envelope_;
    ++count_;
    return static_cast<double>(total_) / (kUnit * static_cast<double>(ahead_));
  }

  bool isAtRest() const {
    if (total_ != static_cast<std::int64_t>(ahead_) * kOne || smallest_.front().gain != kOne) return false;
    for (const auto& history : recent_)
      for (const float sample : history)
        if (std::fabs(sample) > kRest) return false;
    return true;
  }
  void reset() { *this = Stage(ahead_, static_cast<int>(recent_.size())); }

 private:
  static constexpr auto kOne = static_cast<std::int64_t>(kUnit);
  static constexpr std::int64_t kLeastStep = 1000;  // 10⁻⁹ a frame
  struct Wanted {
    Frame at;
    std::int64_t gain;
  };

  /// Largest magnitude of all channels around the sample kPhaseDelay frames ago.
  double peakOf(const float* sample) {
    float peak = 0;
    for (std::size_t c = 0; c < recent_.size(); ++c) {
      auto& history = recent_[c];
      std::copy_backward(history.begin(), history.end() - 1, history.end());
      history[0] = sample[c];
      peak = std::max({peak, std::fabs(history[kPhaseDelay]), std::fabs(history[kPhaseDelay - 1])});
      for (const auto& taps : phaseTaps()) {
        float sum = 0;
        for (std::size_t t = 0; t < kPhaseTaps; ++t)
          sum += taps[t] * history[t];  // NOLINT: it begins with zeros
        peak = std::max(peak, std::fabs(sum));
      }
    }
    return peak;
  }

  Frame ahead_;
  std::vector<std::array<float, kPhaseTaps>> recent_;  // by channel, the newest first
  std::deque<Wanted> smallest_{{-1, kOne}};
  std::int64_t envelope_ = kOne;
  std::vector<std::int64_t> averaged_;
  std::int64_t total_ = 0;
  Frame count_ = 0;
};

class Limiter : public Processor {
 public:
  explicit Limiter(EffectSetting setting)
      : Processor(std::move(setting)),
        ahead_(framesOf(setting_.info->latencySeconds / 2, setting_.rate)),
        first_(ahead_, setting_.channels),
        second_(ahead_, setting_.channels),
        waiting_(
            static_cast<std::size_t>(setting_.channels) * static_cast<std::size_t>(stageDelay(ahead_) + 1),
            0.0f),
        firstGains_(static_cast<std::size_t>(stageDelay(ahead_) + 1), 1.0),
        ceiling_(gainOf(setting_.at(Ceiling, 0) - kMarginDb)) {
    static_assert(kGuard - 1 + 2 * kPhaseDelay - 2 == 22, "latencyFrames of the table");
  }

  void process(const float* const* in, float* const* out, Frame at, Frame frames) override {
    const auto channels = static_cast<std::size_t>(setting_.channels);
    const Frame size = stageDelay(ahead_) + 1;
    float sample[8], limited[8];
    double before = gainOf(setting_.at(Gain, at));
    double release = releaseAt(at);
    const bool constant = setting_.isConstant();
    for (Frame i = 0; i < frames; ++i, ++count_) {
      if (!constant) before = gainOf(setting_.at(Gain, at + i)), release = releaseAt(at + i);
      for (std::size_t c = 0; c < channels; ++c) sample[c] = static_cast<float>(in[c][i] * before);
      const double first = first_.step(sample, ceiling_, release);
      const auto slot = static_cast<std::size_t>(count_ % size);
      const auto oldest = static_cast<std::size_t>((count_ + 1) % size);  // stageDelay frames ago
      for (std::size_t c = 0; c < channels; ++c) {
        waiting_[c * static_cast<std::size_t>(size) + slot] = sample[c];
        limited[c] = static_cast<float>(waiting_[c * static_cast<std::size_t>(size) + oldest] * first);
      }
      const double second = second_.step(limited, ceiling_, release);
      firstGains_[slot] = first;
      out[0][i] = static_cast<float>(before * firstGains_[oldest] * second);
    }
  }

  bool isAtRest() const override {
    for (const float sample : waiting_)
      if (std::fabs(sample) > kRest) return false;
    for (const double gain : firstGains_)
      if (gain != 1) return false;
    return first_.isAtRest() && second_.isAtRest();
  }
  void reset() override {
    first_.reset(), second_.reset();
    std::fill(waiting_.begin(), waiting_.end(), 0.0f);
    std::fill(firstGains_.begin(), firstGains_.end(), 1.0);
    count_ = 0;
  }
  std::unique_ptr<Processor> clone() const override { return std::make_unique<Limiter>(*this); }

 private:
  double releaseAt(Frame frame) const {
    return std::exp(-1000 / (setting_.at(Release, frame) * setting_.rate));
  }

  Frame ahead_;
  Stage first_, second_;
  std::vector<float> waiting_;      // planar rings: what waits for the first gain
  std::vector<double> firstGains_;  // a ring: first gains that wait for the second
  double ceiling_;
  Frame count_ = 0;
};

}  // namespace

std::unique_ptr<Processor> makeLimiter(EffectSetting setting) {
  return std::make_unique<Limiter>(std::move(setting));
}

}  // namespace octaphon
