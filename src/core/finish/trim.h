// Trims off what is quiet at head and end.
#pragma once

#include "finish/finish_plan.h"
#include "finish/held_sound.h"

namespace octaphon {

class Trim : public Stage {
 public:
  /// Sets `facts.kept`, its beginning before the first frame is handed on, its end at the end. NothingLeft
  /// where all is quiet. `plan.trimDb` has to be there; all must live as long.
  Trim(const FinishPlan& plan, SoundFacts& facts, Stage& next);

  Result<> take(const SoundBlock& block) override;
  Result<> end() override;
  bool wantsMore() const override { return next_.wantsMore(); }

 private:
  bool isLoud(const SoundBlock& block, Frame frame) const;

  const FinishPlan& plan_;
  SoundFacts& facts_;
  Stage& next_;
  float threshold_;
  HeldSound quiet_;  // behind the last loud frame
  Frame taken_ = 0;
  bool hasBegun_ = false;
};

}  // namespace octaphon
