// Fades at the ends of a file: after its first frame, and up to its last one.
//   frame c after the first, c < N:                     shape(c / N)
//   c frames before the end, c ≤ N (the last has c = 1): shape(c / N)
#pragma once

#include "finish/finish_plan.h"
#include "finish/held_sound.h"

namespace octaphon {

class EdgeFades : public Stage {
 public:
  /// `next` must live as long.
  EdgeFades(int channels, EdgeFade in, EdgeFade out, Stage& next);

  Result<> take(const SoundBlock& block) override;
  Result<> end() override;
  bool wantsMore() const override { return fader_.wantsMore(); }

 private:
  /// Hands on to `next` what it is given, faded.
  class Fader : public Stage {
   public:
    Fader(int channels, Stage& next) : channels_(channels), next_(next) {}
    Result<> take(const SoundBlock& block) override;
    Result<> end() override { return next_.end(); }
    bool wantsMore() const override { return next_.wantsMore(); }
    EdgeFade in, out;
    Frame left = kMaxFrame;  // frames up to the end

   private:
    double gainAt(Frame frame) const;
    int channels_;
    Stage& next_;
    Frame taken_ = 0;
    std::vector<float> faded_;
  };

  int channels_;
  HeldSound held_;  // what may be the end
  Fader fader_;
  Frame hold_;
};

}  // namespace octaphon
