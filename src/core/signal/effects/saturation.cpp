// tanh, unity for what is soft, worked out at four times the rate so that little of what it makes folds back.
#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "base/decibels.h"
#include "signal/effects/effects.h"

namespace octaphon {
namespace {

enum : std::size_t { Drive, Mix, Output };
constexpr int kTimes = 4;
constexpr int kTaps = 24;  // of a phase
constexpr int kLength = kTimes * kTaps;
constexpr int kDelay = kTaps;  // up and down together, in frames

/// A low pass at 0.9 of half the slower rate, Blackman window, gain 1 at 0 Hz.
const std::array<float, kLength>& lowPass() {
  static const auto taps = [] {
    std::array<float, kLength> made{};
    std::array<double, kLength> exact{};
    double total = 0;
    constexpr int kMiddle = kLength / 2;
    for (int j = 1; j < kLength; ++j) {  // 95 taps around 48, symmetric
      const double x = (j - kMiddle) * 0.9 / kTimes * std::numbers::pi;
      const double turn = 2 * std::numbers::pi * j / kLength;
      const double window = 0.42 - 0.5 * std::cos(turn) + 0.08 * std::cos(2 * turn);
      exact[static_cast<std::size_t>(j)] = (x == 0 ? 1 : std::sin(x) / x) * window;
      total += exact[static_cast<std::size_t>(j)];
    }
    for (std::size_t j = 0; j < kLength; ++j) made[j] = static_cast<float>(exact[j] / total);
    return made;
  }();
  return taps;
}

struct Channel {
  std::array<float, kTaps> slow{};             // newest first
  std::array<float, kLength + kTimes> fast{};  // shaped, newest first
  std::array<float, kDelay + 1> dry{};         // ring
};

class Saturation : public Processor {
 public:
  explicit Saturation(EffectSetting setting)
      : Processor(std::move(setting)), channels_(static_cast<std::size_t>(setting_.channels)) {}

  void process(const float* const* in, float* const* out, Frame at, Frame frames) override {
    const bool constant = setting_.isConstant();
    double drive = gainOf(setting_.at(Drive, at)), wet = setting_.at(Mix, at) / 100,
           level = gainOf(setting_.at(Output, at));
    for (Frame i = 0; i < frames; ++i) {
      if (!constant) {
        drive = gainOf(setting_.at(Drive, at + i)), wet = setting_.at(Mix, at + i) / 100;
        level = gainOf(setting_.at(Output, at + i));
      }
      for (std::size_t c = 0; c < channels_.size(); ++c) {
        const auto [dry, shaped] = step(channels_[c], in[c][i], drive);
        out[c][i] = static_cast<float>(level * (dry + wet * (shaped - dry)));
      }
    }
  }

  bool isAtRest() const override {
    const auto isQuiet = [](const auto& samples) {
      for (const float sample : samples)
        if (std::fabs(sample) > kRest) return false;
      return true;
    };
    for (const Channel& channel : channels_)
      if (!isQuiet(channel.slow) || !isQuiet(channel.fast) || !isQuiet(channel.dry)) return false;
    return true;
  }
  void reset() override { std::fill(channels_.begin(), channels_.end(), Channel{}); }
  std::unique_ptr<Processor> clone() const override { return std::make_unique<Saturation>(*this); }

 private:
  static std::pair<double, double> step(Channel& channel, float sample, double drive) {
    const auto& taps = lowPass();
    std::copy_backward(channel.slow.begin(), channel.slow.end() - 1, channel.slow.end());
    channel.slow[0] = sample;
    std::copy_backward(channel.fast.begin(), channel.fast.end() - kTimes, channel.fast.end());
    for (int phase = 0; phase < kTimes; ++phase) {
      float sum = 0;
      for (std::size_t t = 0; t < kTaps; ++t)
        sum += taps[t * kTimes + static_cast<std::size_t>(phase)] * channel.slow[t];
      channel.fast[static_cast<std::size_t>(kTimes - 1 - phase)] =
          static_cast<float>(std::tanh(drive * kTimes * sum) / drive);
    }
    // The filters' middles lie 48 fast samples behind each, and phase 3 is the newest of a frame.
    float shaped = 0;
    for (std::size_t j = 0; j < kLength; ++j) shaped += taps[j] * channel.fast[j + kTimes - 1];
    std::copy_backward(channel.dry.begin(), channel.dry.end() - 1, channel.dry.end());
    channel.dry[0] = sample;
    return {channel.dry[kDelay], shaped};
  }

  std::vector<Channel> channels_;
};

}  // namespace

std::unique_ptr<Processor> makeSaturation(EffectSetting setting) {
  return std::make_unique<Saturation>(std::move(setting));
}

}  // namespace octaphon
