#include "finish/chain.h"

#include "finish/convert_loop.h"
#include "finish/convert_rate.h"
#include "finish/edge_fades.h"
#include "finish/fit_length.h"
#include "finish/fold_channels.h"
#include "finish/trim.h"

namespace octaphon {

FinishChain::FinishChain(FinishPlan plan, SampleSink& sink)
    : plan_(std::move(plan)), round_(plan_.form, sink), first_(&round_) {
  facts_.tail = plan_.tail;
  addLengths();
  addAfterTap();
}

/// The new first stage, with the one after it behind its arguments.
template <class OfStage, class... Arguments>
OfStage& FinishChain::before(Arguments&&... arguments) {
  auto stage = std::make_unique<OfStage>(std::forward<Arguments>(arguments)..., *first_);
  OfStage& made = *stage;
  first_ = stages_.emplace_back(std::move(stage)).get();
  return made;
}

/// What has to do with where the file begins and ends.
void FinishChain::addLengths() {
  const ExtentPlan& extent = plan_.extent;
  if (plan_.level.isAny()) level_ = &before<WaitForGain>(plan_);
  if (plan_.fadeIn.frames > 0 || plan_.fadeOut.frames > 0)
    before<EdgeFades>(plan_.form.channels, plan_.fadeIn, plan_.fadeOut);
  if (extent.exact > 0 || extent.picture || extent.silence > 0) before<FitLength>(plan_, facts_);
  if (plan_.trimDb) before<Trim>(plan_, facts_);
  if (extent.rate == extent.sessionRate) return;
  if (plan_.loop.isMade())
    before<ConvertLoop>(plan_, facts_);
  else
    before<ConvertRate>(plan_, facts_);
}

void FinishChain::addAfterTap() {
  if (plan_.part > 0)
    before<FoldChannels>(plan_.tapped, plan_.folded, plan_.part);
  else if (plan_.form.channels != plan_.tapped)
    before<FoldChannels>(plan_.tapped, plan_.form.channels, 0);
  addLoop();
  if (!plan_.isDecided) gate_ = &before<Gate>(plan_.tapped, plan_.before + plan_.beforeTail());
  cut_ = &before<Cut>(plan_.tapped, plan_.latency, soundFrames());
}

void FinishChain::addLoop() {
  switch (plan_.loop.way) {
    case LoopWay::None:
    case LoopWay::Overlap: return;
    case LoopWay::Fold: before<FoldTail>(plan_); return;
    case LoopWay::InnerLap: before<KeepLap>(plan_, facts_); return;
    case LoopWay::Blend: blend_ = &before<BlendEnds>(plan_); return;
    case LoopWay::Plain: join_ = &before<PlainJoin>(plan_, facts_); return;
  }
}

void FinishChain::decide(const LoopDecision& decision) {
  if (blend_ != nullptr) blend_->decide(decision.blendLaw);
  if (join_ != nullptr) join_->decide(decision.from, decision.frames);
}

Result<> FinishChain::openTo(Frame tail) {
  return gate_ == nullptr ? Result<>{} : gate_->openTo(plan_.before + plan_.beforeTail() + tail);
}

Result<> FinishChain::decide(Frame tail) {
  if (gate_ == nullptr) return {};
  facts_.tail = tail;
  return gate_->endAt(plan_.before + plan_.beforeTail() + tail + plan_.context);
}

}  // namespace octaphon
