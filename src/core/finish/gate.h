// Lets through what is known to belong to the file, and holds the rest back until that is known: of a tail
// that rings out, the stretch in which it might have ended.
#pragma once

#include "finish/held_sound.h"

namespace octaphon {

class Gate : public Stage {
 public:
  /// `open` frames belong to it from the beginning. `next` must live as long.
  Gate(int channels, Frame open, Stage& next)
      : channels_(channels), held_(channels), next_(next), open_(open) {}

  /// So many frames from the first belong to it, at least.
  Result<> openTo(Frame frames);
  /// So many and no more.
  Result<> endAt(Frame frames);

  Result<> take(const SoundBlock& block) override;
  Result<> end() override { return next_.end(); }
  bool wantsMore() const override { return (!isEnding_ || given_ < open_) && next_.wantsMore(); }

 private:
  int channels_;
  HeldSound held_;
  Stage& next_;
  Frame given_ = 0;  // from the first frame
  Frame open_;
  bool isEnding_ = false;
};

}  // namespace octaphon
