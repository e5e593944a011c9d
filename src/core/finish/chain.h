// All stages of one file, from its tap to its encoder. Adding a stage means a place in the order here:
// tap → cut → channels → (rate → trim → picture frames → exact length → edge fades → level → ceiling) →
// round.
#pragma once

#include <memory>
#include <vector>

#include "finish/cut.h"
#include "finish/round.h"

namespace octaphon {

/// What a file asks of its sound.
struct FinishPlan {
  int tapped = 2;     ///< channels where it is taken off
  Frame latency = 0;  ///< frames that the tap lies behind the session
  Frame frames = 0;   ///< of the file
  SampleForm form;
};

class FinishChain {
 public:
  /// `sink` must live as long.
  FinishChain(const FinishPlan& plan, SampleSink& sink);
  FinishChain(const FinishChain&) = delete;

  /// The next frames of the tap, `plan.tapped` channels.
  Result<> take(const SoundBlock& block) { return first_->take(block); }
  Result<> end() { return first_->end(); }
  bool wantsMore() const { return first_->wantsMore(); }

  const Level& level() const { return round_.level(); }
  /// Frames of the file whose sound has come.
  Frame taken() const { return frames_ - cut_->left(); }

 private:
  Stage& before(std::unique_ptr<Stage> stage);

  Frame frames_;
  Round round_;
  std::vector<std::unique_ptr<Stage>> stages_;  // those before it, the last one first
  Stage* first_;
  Cut* cut_;
};

}  // namespace octaphon
