// Takes a stretch out of a sound: leaves out what comes before it, and says when it is through.
#pragma once

#include "finish/stage.h"

namespace octaphon {

class Cut : public Stage {
 public:
  /// `skipped` frames are left out (latency of the tap), then `frames` are handed on. `next` must live as
  /// long.
  Cut(int channels, Frame skipped, Frame frames, Stage& next)
      : channels_(channels), skipped_(skipped), left_(frames), next_(next) {}

  Result<> take(const SoundBlock& block) override;
  Result<> end() override { return next_.end(); }
  bool wantsMore() const override { return left_ > 0 && next_.wantsMore(); }
  /// Frames that are still to come.
  Frame left() const { return left_; }

 private:
  int channels_;
  Frame skipped_, left_;
  Stage& next_;
};

}  // namespace octaphon
