#include "base/decibels.h"
#include "signal/effects/effects.h"

namespace octaphon {
namespace {

class Trim : public Processor {
 public:
  using Processor::Processor;

  void process(const float* const* in, float* const* out, Frame at, Frame frames) override {
    const bool constant = setting_.isConstant();
    double gain = gainOf(setting_.at(0, at));
    for (Frame i = 0; i < frames; ++i) {
      if (!constant) gain = gainOf(setting_.at(0, at + i));
      for (int c = 0; c < setting_.channels; ++c) out[c][i] = static_cast<float>(in[c][i] * gain);
    }
  }
  bool isAtRest() const override { return true; }
  void reset() override {}
  std::unique_ptr<Processor> clone() const override { return std::make_unique<Trim>(*this); }
};

}  // namespace

std::unique_ptr<Processor> makeTrim(EffectSetting setting) {
  return std::make_unique<Trim>(std::move(setting));
}

}  // namespace octaphon
