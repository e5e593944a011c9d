// Into fewer or more channels, by the laws of mixing (docs/session-format.md; ITU-R BS.775). Mono is on all
// channels as it is.
#pragma once

#include <vector>

#include "finish/stage.h"
#include "routing/mixing_law.h"

namespace octaphon {

class FoldChannels : public Stage {
 public:
  /// 1 … kMaxMixChannels each. `part`: the one channel of `to` that comes out, from 1; 0: all. `next` must
  /// live as long.
  FoldChannels(int from, int to, int part, Stage& next);

  Result<> take(const SoundBlock& block) override;
  Result<> end() override { return next_.end(); }
  bool wantsMore() const override { return next_.wantsMore(); }

 private:
  int from_;
  int first_, count_;  // channels that come out
  MixMatrix matrix_;
  std::vector<float> folded_;  // planar
  Stage& next_;
};

}  // namespace octaphon
