#include "finish/chain.h"

#include "finish/fold_channels.h"

namespace octaphon {

FinishChain::FinishChain(const FinishPlan& plan, SampleSink& sink)
    : frames_(plan.frames), round_(plan.form, sink), first_(&round_) {
  if (plan.form.channels != plan.tapped)
    first_ = &before(std::make_unique<FoldChannels>(plan.tapped, plan.form.channels, *first_));
  auto cut = std::make_unique<Cut>(plan.tapped, plan.latency, plan.frames, *first_);
  cut_ = cut.get();
  first_ = &before(std::move(cut));
}

Stage& FinishChain::before(std::unique_ptr<Stage> stage) { return *stages_.emplace_back(std::move(stage)); }

}  // namespace octaphon
