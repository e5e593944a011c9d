#include "finish/trim.h"

#include <cmath>

#include "base/decibels.h"
#include "routing/mixing_law.h"

namespace octaphon {

Trim::Trim(const FinishPlan& plan, SoundFacts& facts, Stage& next)
    : plan_(plan),
      facts_(facts),
      next_(next),
      threshold_(static_cast<float>(gainOf(*plan.trimDb))),
      quiet_(plan.form.channels) {}

bool Trim::isLoud(const SoundBlock& block, Frame frame) const {
  for (int c = 0; c < plan_.form.channels; ++c)
    if (std::fabs(block.channels[c][frame]) >= threshold_) return true;
  return false;
}

Result<> Trim::take(const SoundBlock& block) {
  Frame first = block.frames, end = 0;  // of what is loud
  for (Frame i = 0; i < block.frames && !block.isSilent(); ++i)
    if (isLoud(block, i)) {
      first = std::min(first, i);
      end = i + 1;
    }
  if (end > 0 && !hasBegun_) {
    hasBegun_ = true;
    facts_.kept.from = taken_ + first;
  } else {
    first = 0;
  }
  taken_ += block.frames;
  if (!hasBegun_) return {};
  if (end > 0) {
    OCTAPHON_TRY(quiet_.giveTo(next_, quiet_.frames()));
    const float* channels[kMaxTapChannels];
    OCTAPHON_TRY(next_.take(partOf(block, plan_.form.channels, first, end - first, channels)));
    facts_.kept.to = taken_ - block.frames + end;
  }
  return quiet_.add(block, end, block.frames - end);
}

Result<> Trim::end() {
  if (!hasBegun_)
    return fail(ErrorCode::NothingLeft, plan_.form.place,
                "all of it is under " + decibelText(*plan_.trimDb) + " dBFS, and silence is trimmed off",
                "Lower the threshold, or keep silence");
  return next_.end();
}

}  // namespace octaphon
