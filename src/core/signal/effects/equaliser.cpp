#include <algorithm>
#include <array>

#include "signal/effects/biquad.h"
#include "signal/effects/effects.h"

namespace octaphon {
namespace {

enum : std::size_t {
  LowCut,
  LowCutFreq,
  LowFreq,
  LowGain,
  Bell1Freq,
  Bell1Gain,
  Bell1Q,
  Bell2Freq,
  Bell2Gain,
  Bell2Q,
  HighFreq,
  HighGain,
  HighCut,
  HighCutFreq
};
constexpr std::size_t kBands = 6;
constexpr double kButterworth = std::numbers::sqrt2 / 2;

class Equaliser : public Processor {
 public:
  explicit Equaliser(EffectSetting setting)
      : Processor(std::move(setting)), states_(static_cast<std::size_t>(setting_.channels)) {
    isFixed_ = setting_.isConstant();
    if (isFixed_) design(0);
  }

  void process(const float* const* in, float* const* out, Frame at, Frame frames) override {
    for (Frame done = 0; done < frames;) {
      const Frame now = at + done;
      // A filter that moves is designed anew in each cell of session time.
      const Frame cell = isFixed_ ? frames : kControlCell - now % kControlCell;
      const Frame count = std::min(frames - done, cell);
      if (!isFixed_) design(now - now % kControlCell);
      for (int c = 0; c < setting_.channels; ++c) run(c, in[c] + done, out[c] + done, count);
      done += count;
    }
  }

  bool isAtRest() const override {
    for (const auto& bands : states_)
      for (const BiquadState& state : bands)
        if (std::fabs(state.z1) > kRest || std::fabs(state.z2) > kRest) return false;
    return true;
  }
  void reset() override { std::fill(states_.begin(), states_.end(), std::array<BiquadState, kBands>{}); }
  std::unique_ptr<Processor> clone() const override { return std::make_unique<Equaliser>(*this); }

 private:
  void run(int channel, const float* in, float* out, Frame frames) {
    auto& bands = states_[static_cast<std::size_t>(channel)];
    if (in != out) std::copy_n(in, frames, out);
    double buffer[256];
    for (Frame done = 0; done < frames; done += 256) {
      const Frame count = std::min<Frame>(256, frames - done);
      for (Frame i = 0; i < count; ++i) buffer[i] = out[done + i];
      for (std::size_t band = 0; band < kBands; ++band) {
        if (!isUsed_[band]) continue;
        const Biquad filter = filters_[band];
        BiquadState state = bands[band];
        for (Frame i = 0; i < count; ++i) buffer[i] = state.step(filter, buffer[i]);
        bands[band] = state;
      }
      for (Frame i = 0; i < count; ++i) out[done + i] = static_cast<float>(buffer[i]);
    }
  }

  /// Bands that do nothing are passed over, so that what is not touched stays as it is.
  void design(Frame frame) {
    const auto value = [&](std::size_t parameter) { return setting_.at(parameter, frame); };
    const auto moves = [&](std::size_t parameter) { return !setting_.values[parameter].isConstant(); };
    const double rate = setting_.rate;
    isUsed_ = {value(LowCut) > 0.5,
               value(LowGain) != 0 || moves(LowGain),
               value(Bell1Gain) != 0 || moves(Bell1Gain),
               value(Bell2Gain) != 0 || moves(Bell2Gain),
               value(HighGain) != 0 || moves(HighGain),
               value(HighCut) > 0.5};
    if (isUsed_[0]) filters_[0] = biquad::highPass(value(LowCutFreq), kButterworth, rate);
    if (isUsed_[1]) filters_[1] = biquad::shelf(value(LowFreq), value(LowGain), rate, 1);
    if (isUsed_[2]) filters_[2] = biquad::bell(value(Bell1Freq), value(Bell1Q), value(Bell1Gain), rate);
    if (isUsed_[3]) filters_[3] = biquad::bell(value(Bell2Freq), value(Bell2Q), value(Bell2Gain), rate);
    if (isUsed_[4]) filters_[4] = biquad::shelf(value(HighFreq), value(HighGain), rate, -1);
    if (isUsed_[5]) filters_[5] = biquad::lowPass(value(HighCutFreq), kButterworth, rate);
  }

  std::array<Biquad, kBands> filters_;
  std::array<bool, kBands> isUsed_{};
  std::vector<std::array<BiquadState, kBands>> states_;  // by channel
  bool isFixed_ = true;
};

}  // namespace

std::unique_ptr<Processor> makeEqualiser(EffectSetting setting) {
  return std::make_unique<Equaliser>(std::move(setting));
}

}  // namespace octaphon
