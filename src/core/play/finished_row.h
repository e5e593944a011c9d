// A row as it will be written, but at the session's rate and without rounding: with its ends.
#pragma once

#include <vector>

#include "finish/chain.h"
#include "play/heard_block.h"
#include "signal/graph.h"

namespace octaphon {

class FinishedRow : public SampleSink {
 public:
  /// `start`: the session frame of the file's first one; `first`: that of its sound's first one.
  FinishedRow(FinishPlan plan, Frame start, Frame first);

  /// The block of the tap that begins at session frame `at`; with frames that come before the sound's first.
  Result<> take(const TapBlock& block, Frame at, Frame frames);
  /// Of a loop that waits for that; before its sound ends.
  void decide(const LoopDecision& decision) { chain_.decide(decision); }
  Result<> end() { return chain_.end(); }
  bool wantsMore() const { return chain_.wantsMore(); }

  /// The session frame up to which it is finished.
  Frame finishedTo() const { return next_ + ready(); }
  /// Adds the next frames, which begin at next(), times `gain`, and leaves them behind.
  void addNext(Frame frames, float gain, HeardBlock& block);
  Frame next() const { return next_; }

  Result<> write(const std::int32_t* const*, Frame) override { return {}; }  // it has no whole numbers
  Result<> write(const float* const* channels, Frame frames) override;

 private:
  Frame ready() const { return static_cast<Frame>(finished_.front().size()) - given_; }

  int channels_;
  Frame first_, next_;
  FinishChain chain_;
  std::vector<std::vector<float>> finished_;  // by channel
  Frame given_ = 0;                           // of them
};

}  // namespace octaphon
