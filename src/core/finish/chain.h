// All stages of one file, from its tap to its encoder. Adding a stage means a place in the order here:
// tap → cut → gate → lap → channels → rate → trim → picture frames → exact length → edge fades → (level →
// ceiling) → round.
#pragma once

#include <memory>
#include <vector>

#include "finish/cut.h"
#include "finish/finish_plan.h"
#include "finish/gate.h"
#include "finish/loop_stages.h"
#include "finish/round.h"
#include "finish/wait_for_gain.h"

namespace octaphon {

class FinishChain {
 public:
  /// `sink` must live as long.
  FinishChain(FinishPlan plan, SampleSink& sink);
  FinishChain(const FinishChain&) = delete;

  /// The next frames of the tap, `plan.tapped` channels: `plan.before` frames before the file's first one,
  /// then its own.
  Result<> take(const SoundBlock& block) { return first_->take(block); }
  /// Of a tail that is not decided: it has so many frames, at least. In frames of the session.
  Result<> openTo(Frame tail);
  /// So many and no more.
  Result<> decide(Frame tail);
  /// Of a loop that waits for that; before the sound ends.
  void decide(const LoopDecision& decision);
  /// The sound has ended.
  Result<> end() { return first_->end(); }
  bool wantsMore() const { return first_->wantsMore(); }
  /// Once it has ended, of a sound whose gain was not known: its file is written.
  Result<> release(double gainDb) { return level_->release(gainDb); }
  /// Of the file, where a limiter is at work; once it is written.
  Levels levelsBehind() const { return level_ == nullptr ? Levels{} : level_->levelsBehind(); }
  Result<double> searchGain(double gainDb) { return level_->search(gainDb); }
  /// Once it has ended: of the sound before any gain, where it is measured.
  Levels levels() const { return level_ == nullptr ? Levels{} : level_->levels(); }

  const Level& level() const { return round_.level(); }
  Digest samples() const { return round_.samples(); }  ///< as Round::samples()
  SoundFacts facts() const {
    SoundFacts facts = facts_;
    facts.offset = round_.offset();
    return facts;
  }
  /// Once the sound has ended: the parts of the file.
  Extent extent() const { return extentOf(plan_.extent, facts_.tail, facts_.kept); }
  /// Frames of the sound that have come, of soundFrames().
  Frame taken() const { return soundFrames() - cut_->left(); }
  /// Frames that are taken of the tap, at most.
  Frame soundFrames() const { return plan_.before + plan_.beforeTail() + plan_.tail + plan_.context; }

 private:
  template <class OfStage, class... Arguments>
  OfStage& before(Arguments&&... arguments);
  void addAfterTap();
  void addLoop();
  void addLengths();

  FinishPlan plan_;
  SoundFacts facts_;
  Round round_;
  std::vector<std::unique_ptr<Stage>> stages_;  // those before it, the last one first
  Stage* first_;
  WaitForGain* level_ = nullptr;
  Gate* gate_ = nullptr;
  Cut* cut_;
  BlendEnds* blend_ = nullptr;
  PlainJoin* join_ = nullptr;
};

}  // namespace octaphon
