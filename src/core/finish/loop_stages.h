// What makes one lap out of the sound that is played for it: the way from its tap to a sound that joins its
// own beginning. All hold the lap back until it is complete.
#pragma once

#include <functional>

#include "finish/finish_plan.h"
#include "finish/held_sound.h"

namespace octaphon {

/// Folds whatever comes behind the body onto its beginning, as often as it is longer.
class FoldTail : public Stage {
 public:
  FoldTail(const FinishPlan& plan, Stage& next)
      : body_(plan.loop.body), channels_(plan.tapped), lap_(channels_), next_(next) {}

  Result<> take(const SoundBlock& block) override;
  Result<> end() override;

 private:
  void fold(const SoundBlock& block, Frame from);

  Frame body_;
  int channels_;
  HeldSound lap_;
  std::vector<std::vector<double>> folded_;  // by channel: what is added to the lap's beginning
  Frame taken_ = 0;
  Stage& next_;
};

/// Keeps the last lap but one, with all before it or without, and compares the last one with it.
class KeepLap : public Stage {
 public:
  /// Sets `facts.lapDifference` and `facts.goesOn`. All must live as long.
  KeepLap(const FinishPlan& plan, SoundFacts& facts, Stage& next);

  Result<> take(const SoundBlock& block) override;
  Result<> end() override;

 private:
  Result<> compare(const SoundBlock& block, Frame from, Frame frames);

  const FinishPlan& plan_;
  SoundFacts& facts_;
  Frame keptFrom_, keptTo_;  // frames of all that is played
  HeldSound kept_;           // once more, to be compared
  Frame taken_ = 0;
  float peak_ = 0, difference_ = 0;
  Stage& next_;
};

/// The end crossfaded with what comes before the beginning.
class BlendEnds : public Stage {
 public:
  BlendEnds(const FinishPlan& plan, Stage& next);

  /// Before the sound ends.
  void decide(BlendLaw law) { law_ = law; }
  Result<> take(const SoundBlock& block) override;
  Result<> end() override;

 private:
  const FinishPlan& plan_;
  Frame blend_;
  HeldSound lap_;                           // from the body's beginning on
  std::vector<std::vector<float>> before_;  // by channel: what comes in
  Frame taken_ = 0;
  BlendLaw law_ = BlendLaw::EqualPower;
  Stage& next_;
};

/// A stretch of what is played, which is known when all of it was.
class PlainJoin : public Stage {
 public:
  /// Sets `facts.kept`. All must live as long.
  PlainJoin(const FinishPlan& plan, SoundFacts& facts, Stage& next);

  /// Before the sound ends: where the lap begins, in frames from the first one played, and how long it is.
  void decide(Frame from, Frame frames) { from_ = from, frames_ = frames; }
  Result<> take(const SoundBlock& block) override { return all_.add(block, 0, block.frames); }
  Result<> end() override;

 private:
  const FinishPlan& plan_;
  SoundFacts& facts_;
  HeldSound all_;
  Frame from_, frames_;
  Stage& next_;
};

}  // namespace octaphon
