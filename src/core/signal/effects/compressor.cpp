// Feed-forward, in decibels, with a soft knee and a smooth branching detector: D. Giannoulis, M. Massberg,
// J. Reiss, "Digital Dynamic Range Compressor Design", JAES 60 (6), 2012. Time constants are those of
// 1 − 1/e of a step in decibels.
#include <cmath>

#include "base/decibels.h"
#include "signal/effects/effects.h"

namespace octaphon {
namespace {

enum : std::size_t { Threshold, Ratio, Knee, Attack, Release, Makeup, Mix, Linked, Detector };
constexpr double kMeanSeconds = 0.01;           // of RMS
constexpr double kNeper = 0.11512925464970229;  // ln 10 / 20

struct Setting {
  double threshold, slope, knee, attack, release, makeup, wet, floor;
};

struct Channel {
  double mean = 0;       // of squares
  double reduction = 0;  // dB
};

class Compressor : public Processor {
 public:
  Compressor(EffectSetting setting, int gainChannels)
      : Processor(std::move(setting)), channels_(static_cast<std::size_t>(gainChannels)) {
    meanFactor_ = std::exp(-1 / (kMeanSeconds * setting_.rate));
    isRms_ = setting_.at(Detector, 0) > 0.5;
    isFixed_ = setting_.isConstant();
    if (isFixed_) now_ = settingAt(0);
  }

  void process(const float* const* in, float* const* out, Frame at, Frame frames) override {
    const auto gains = channels_.size();
    for (Frame i = 0; i < frames; ++i) {
      const Frame frame = at + i;
      if (!isFixed_ && (i == 0 || frame % kControlCell == 0)) now_ = settingAt(frame - frame % kControlCell);
      for (std::size_t g = 0; g < gains; ++g) {
        float level = 0;
        if (gains == 1)
          for (int c = 0; c < setting_.channels; ++c) level = std::max(level, std::fabs(in[c][i]));
        else
          level = std::fabs(in[g][i]);
        out[g][i] = static_cast<float>(step(channels_[g], level));
      }
    }
  }

  bool isAtRest() const override {
    for (const Channel& channel : channels_)
      if (channel.reduction > 1e-6 || channel.mean > kRest * kRest) return false;
    return true;
  }
  void reset() override { std::fill(channels_.begin(), channels_.end(), Channel{}); }
  std::unique_ptr<Processor> clone() const override { return std::make_unique<Compressor>(*this); }

 private:
  Setting settingAt(Frame frame) const {
    const auto value = [&](std::size_t parameter) { return setting_.at(parameter, frame); };
    const auto factor = [&](double ms) { return std::exp(-1 / (ms / 1000 * setting_.rate)); };
    Setting s;
    s.threshold = value(Threshold);
    s.slope = 1 / value(Ratio) - 1;
    s.knee = value(Knee);
    s.attack = factor(value(Attack));
    s.release = factor(value(Release));
    s.makeup = value(Makeup);
    s.wet = value(Mix) / 100;
    s.floor = std::pow(10, (s.threshold - s.knee / 2) / 20);
    return s;
  }

  /// Decibels taken away at a level, once it has lasted.
  double wanted(double level) const {
    if (level <= now_.floor) return 0;
    const double over = std::log(level) / kNeper - now_.threshold;
    if (2 * over <= now_.knee && now_.knee > 0) {
      const double inside = over + now_.knee / 2;
      return -now_.slope * inside * inside / (2 * now_.knee);
    }
    return -now_.slope * over;
  }

  double step(Channel& channel, double level) {
    if (isRms_) {
      channel.mean = meanFactor_ * channel.mean + (1 - meanFactor_) * level * level;
      level = std::sqrt(channel.mean);
    }
    const double target = wanted(level);
    const double factor = target > channel.reduction ? now_.attack : now_.release;
    channel.reduction = factor * channel.reduction + (1 - factor) * target;
    if (channel.reduction < 1e-9) channel.reduction = 0;
    const double gain = std::exp((now_.makeup - channel.reduction) * kNeper);
    return 1 - now_.wet + now_.wet * gain;
  }

  std::vector<Channel> channels_;
  Setting now_{};
  double meanFactor_ = 0;
  bool isRms_ = false;
  bool isFixed_ = true;
};

}  // namespace

std::unique_ptr<Processor> makeCompressor(EffectSetting setting, int gainChannels) {
  return std::make_unique<Compressor>(std::move(setting), gainChannels);
}

}  // namespace octaphon
