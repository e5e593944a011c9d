// The level of a file: its sound is measured, waits until its gain is known, and gets it.
#pragma once

#include "finish/finish_plan.h"
#include "finish/held_sound.h"
#include "level/level_meter.h"

namespace octaphon {

class WaitForGain : public Stage {
 public:
  /// All must live as long.
  WaitForGain(const FinishPlan& plan, Stage& next);

  Result<> take(const SoundBlock& block) override;
  /// Where the gain is not known, what was held is handed on by release() alone.
  Result<> end() override;
  bool wantsMore() const override { return next_.wantsMore(); }

  /// Once the sound has ended, before any gain; of a sound that is measured.
  Levels levels() const { return meter_ ? meter_->levels() : Levels{}; }
  /// Of the file, once it is written, where that is judged.
  Levels levelsBehind() const { return behind_ ? behind_->levels() : Levels{}; }
  /// Once it has ended, where its gain was not known: the one in dB that gives the loudness that is asked for
  /// behind the limiter, as near as a few turns come to it. `gainDb` to begin with.
  Result<double> search(double gainDb);
  /// Once it has ended, where its gain was not known. In dB.
  Result<> release(double gainDb);

 private:
  void setGain(double gainDb);
  /// Behind the limiter; nothing where it cannot be judged.
  Result<std::optional<double>> loudnessAt(double gainDb);

  const FinishPlan& plan_;
  Stage& next_;
  std::optional<LevelMeter> meter_, behind_;
  HeldSound held_;
  std::unique_ptr<Stage> listens_;
  std::unique_ptr<Stage> gain_;  // once it is known
};

}  // namespace octaphon
