#include <cmath>
#include <numbers>

#include "signal/effects/effects.h"

namespace octaphon {
namespace {

enum : std::size_t { Time, Feedback, Damp, Mix };

class Echo : public Processor {
 public:
  explicit Echo(EffectSetting setting)
      : Processor(std::move(setting)),
        length_(std::max<Frame>(1, framesOf(setting_.at(Time, 0) / 1000, setting_.rate))),
        dull_(std::exp(-2 * std::numbers::pi * std::fmin(setting_.at(Damp, 0), setting_.rate * 0.49) /
                       setting_.rate)),
        ring_(static_cast<std::size_t>(length_ * setting_.channels), 0.0f),
        dulled_(static_cast<std::size_t>(setting_.channels), 0.0),
        quiet_(length_) {}

  void process(const float* const* in, float* const* out, Frame at, Frame frames) override {
    const bool constant = setting_.isConstant();
    double feedback = setting_.at(Feedback, at) / 100, wet = setting_.at(Mix, at) / 100;
    for (Frame i = 0; i < frames; ++i) {
      if (!constant) feedback = setting_.at(Feedback, at + i) / 100, wet = setting_.at(Mix, at + i) / 100;
      bool loud = false;
      for (int c = 0; c < setting_.channels; ++c) {
        float& slot = ring_[static_cast<std::size_t>(c * length_ + place_)];
        double& dulled = dulled_[static_cast<std::size_t>(c)];
        const double repeat = slot;
        dulled = dull_ * dulled + (1 - dull_) * repeat;
        const double dry = in[c][i];
        slot = static_cast<float>(dry + feedback * dulled);
        loud |= std::fabs(slot) > kRest || std::fabs(dulled) > kRest;
        out[c][i] = static_cast<float>(dry + wet * (repeat - dry));
      }
      quiet_ = loud ? 0 : quiet_ + 1;
      if (++place_ == length_) place_ = 0;
    }
  }

  bool isAtRest() const override { return quiet_ >= length_; }
  void reset() override {
    std::fill(ring_.begin(), ring_.end(), 0.0f);
    std::fill(dulled_.begin(), dulled_.end(), 0.0);
    place_ = 0;
    quiet_ = length_;
  }
  std::unique_ptr<Processor> clone() const override { return std::make_unique<Echo>(*this); }

 private:
  Frame length_;
  double dull_;
  std::vector<float> ring_;     // planar
  std::vector<double> dulled_;  // by channel
  Frame place_ = 0;
  Frame quiet_;  // frames since anything was written that matters
};

}  // namespace

std::unique_ptr<Processor> makeEcho(EffectSetting setting) {
  return std::make_unique<Echo>(std::move(setting));
}

}  // namespace octaphon
