#include "finish/fit_length.h"

#include <algorithm>
#include <cmath>

namespace octaphon {

FitLength::FitLength(const FinishPlan& plan, SoundFacts& facts, Stage& next)
    : plan_(plan), facts_(facts), next_(next), exact_(plan.extent.exact) {}

Result<> FitLength::begin() {
  hasBegun_ = true;
  return addSilence(silenceBefore(plan_.extent, facts_.kept));
}

Result<> FitLength::addSilence(Frame frames) {
  if (frames <= 0) return {};
  written_ += frames;
  return next_.take({nullptr, frames});
}

/// The level of the last 10 ms before the cut.
void FitLength::measureCut(const SoundBlock& block, Frame frames) {
  const Frame window = plan_.extent.rate / 100;
  const Frame from = std::max<Frame>(0, exact_ - window - written_);
  for (int c = 0; c < plan_.form.channels && !block.isSilent(); ++c)
    for (Frame i = from; i < frames; ++i)
      facts_.cutLevel = std::max(facts_.cutLevel, std::fabs(block.channels[c][i]));
}

Result<> FitLength::take(const SoundBlock& block) {
  if (!hasBegun_) OCTAPHON_TRY(begin());
  const Frame frames = exact_ > 0 ? std::min(block.frames, exact_ - written_) : block.frames;
  if (exact_ > 0) measureCut(block, frames);
  if (frames <= 0) return {};
  written_ += frames;
  return next_.take({block.channels, frames});
}

Result<> FitLength::end() {
  if (!hasBegun_) OCTAPHON_TRY(begin());
  ExtentPlan asItComes = plan_.extent;
  asItComes.exact = 0;
  facts_.isCut =
      exact_ > 0 && extentOf(asItComes, facts_.tail, facts_.kept).frames() - plan_.extent.silence > exact_;
  OCTAPHON_TRY(addSilence(extentOf(plan_.extent, facts_.tail, facts_.kept).frames() - written_));
  return next_.end();
}

}  // namespace octaphon
