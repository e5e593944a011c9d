// Silence before and behind, whole picture frames, exact length: brings a sound to the length of its file.
#pragma once

#include "finish/finish_plan.h"

namespace octaphon {

class FitLength : public Stage {
 public:
  /// Reads `facts` as they become known, and says there whether an exact length cut the sound off. All must
  /// live as long.
  FitLength(const FinishPlan& plan, SoundFacts& facts, Stage& next);

  Result<> take(const SoundBlock& block) override;
  Result<> end() override;
  /// An exact length is full.
  bool wantsMore() const override { return !isFull() && next_.wantsMore(); }

 private:
  bool isFull() const { return exact_ > 0 && written_ >= exact_; }
  Result<> begin();
  Result<> addSilence(Frame frames);
  void measureCut(const SoundBlock& block, Frame frames);

  const FinishPlan& plan_;
  SoundFacts& facts_;
  Stage& next_;
  Frame exact_;
  Frame written_ = 0;
  bool hasBegun_ = false;
};

}  // namespace octaphon
