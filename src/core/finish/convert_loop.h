// A lap to another rate, with itself as what comes before and after it, at the ratio of its rounded lengths:
// so it joins as it did before. What stands before the lap in the file goes along.
#pragma once

#include "finish/finish_plan.h"
#include "finish/held_sound.h"
#include "media/resampler.h"

namespace octaphon {

class ConvertLoop : public Stage {
 public:
  /// All must live as long.
  ConvertLoop(const FinishPlan& plan, const SoundFacts& facts, Stage& next);

  Result<> take(const SoundBlock& block) override;
  Result<> end() override;

 private:
  Result<> feed(const SoundBlock& block);
  Result<> pass(const float* interleaved, Frame frames);

  const FinishPlan& plan_;
  const SoundFacts& facts_;
  int channels_;
  Stage& next_;
  Frame intro_;                            // frames before the lap
  HeldSound before_, all_;                 // the same sound: once as what comes before
  std::vector<std::vector<float>> first_;  // by channel: the lap's beginning, for what comes after
  Frame taken_ = 0;
  std::optional<Resampler> resampler_;
  std::vector<float> interleaved_, planar_;
  Frame skipped_ = 0, left_ = 0;  // frames that are left out, and that are handed on
};

}  // namespace octaphon
