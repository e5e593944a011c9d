// A processor in a graph: it is left alone while nothing comes in and nothing rings on. When that begins is
// decided at whole multiples of kEffectCell session frames, so that the bits do not depend on blocks.
#pragma once

#include "routing/effect_info.h"
#include "signal/effects/processor.h"

namespace octaphon {

class EffectRunner {
 public:
  EffectRunner() = default;
  /// `inputs` and `outputs` count channels; `computesGain`: the processor gives gains, which silence does not
  /// silence.
  EffectRunner(std::unique_ptr<Processor> processor, int inputs, int outputs, bool computesGain,
               bool isFixed);
  EffectRunner(EffectRunner&&) = default;
  EffectRunner& operator=(EffectRunner&&) = default;

  /// `in` null: silence. False: silence came out, and `out` was not touched.
  bool process(const float* const* in, float* const* out, Frame at, Frame frames);
  EffectRunner clone() const;

 private:
  bool chunk(const float* const* in, float* const* out, Frame at, Frame frames);
  void rest(float* const* out, Frame frames) const;

  std::unique_ptr<Processor> processor_;
  int inputs_ = 0, outputs_ = 0;
  bool computesGain_ = false;
  bool mayRest_ = true;
  bool isResting_ = false;
  bool cellIsQuiet_ = true;
  std::vector<float> restGain_;  // by channel
};

}  // namespace octaphon
