// To another rate. What comes before the file's first frame, and after its last, is context: heard by the
// converter and left out.
#pragma once

#include <optional>

#include "finish/finish_plan.h"
#include "media/resampler.h"

namespace octaphon {

class ConvertRate : public Stage {
 public:
  /// No more than `facts.tail` says is handed on. All must live as long.
  ConvertRate(const FinishPlan& plan, const SoundFacts& facts, Stage& next);

  Result<> take(const SoundBlock& block) override;
  Result<> end() override;
  bool wantsMore() const override { return next_.wantsMore(); }

 private:
  Result<> begin();
  Result<> pass(const float* interleaved, Frame frames);
  Result<> handOn(const float* interleaved, Frame frames);

  const FinishPlan& plan_;
  const SoundFacts& facts_;
  int channels_;
  Stage& next_;
  std::optional<Resampler> resampler_;
  std::vector<float> interleaved_, planar_;
  Frame skipped_;     // frames that are still left out, at the file's rate
  Frame passed_ = 0;  // frames handed on
};

}  // namespace octaphon
