#include "run/pass_loops.h"

#include <algorithm>

#include "loop/blend.h"
#include "loop/seam_search.h"

namespace octaphon {

LoopDecision decideLoop(const SpanLoopPlan& plan, const PlannedSpan& span, const Lap& heard) {
  LoopDecision decision;
  decision.from = span.leadIn;
  decision.frames = span.length;
  if (plan.asked.way == LoopWay::Blend) {
    const Lap coming = partOf(heard, 0, plan.blend);
    const Lap going = partOf(heard, span.leadIn + span.length - plan.blend, plan.blend);
    decision.blendLaw = correlationOf(going, coming) >= kAlike ? BlendLaw::EqualGain : BlendLaw::EqualPower;
  } else {
    const std::vector<LoopCandidate> found =
        searchLoop(heard, {span.leadIn, span.length}, {plan.search, plan.isLengthKept});
    decision.from = found.front().place.start;
    decision.frames = found.front().place.length;
  }
  return decision;
}

LapTap tapOfMix(SpanRecipe& recipe, TapList& taps, const Brief& brief, const PlannedSpan& span, int rate) {
  const PlannedSource mix = PlannedSource::mix();
  const Tap tap = recipe.tap(brief, mix);
  return {taps.add(tap.node, {&brief, {mix}, false}), tap.channels, rate, span.heardFrames()};
}

std::optional<std::size_t> PassLoops::add(std::size_t row) {
  const TappedSound& sound = sheet_.soundOf(sheet_.rows[row]);
  const PlannedBrief& brief = sheet_.briefs[sound.brief];
  if (!brief.ends[sound.span].loop.waitsForMix()) return std::nullopt;
  for (std::size_t i = 0; i < loops_.size(); ++i)
    if (loops_[i].sound->brief == sound.brief && loops_[i].sound->span == sound.span) return i;
  loops_.push_back({&sound, tapOfMix(recipe_, taps_, brief.brief, brief.spans[sound.span], sheet_.rate)});
  return loops_.size() - 1;
}

void PassLoops::begin(const TapSource& source) {
  for (LoopOfSpan& loop : loops_) loop.mix.begin(source);
}

void PassLoops::take(const TapSource& source, Frame at, Frame frames) {
  for (LoopOfSpan& loop : loops_) loop.mix.take(source, at, frames);
}

Frame PassLoops::framesWanted() const {
  Frame wanted = 0;
  for (const LoopOfSpan& loop : loops_) wanted = std::max(wanted, loop.mix.framesWanted());
  return wanted;
}

LoopDecision PassLoops::decide(std::size_t index) const {
  const LoopOfSpan& loop = loops_[index];
  const PlannedBrief& brief = sheet_.briefs[loop.sound->brief];
  return decideLoop(brief.ends[loop.sound->span].loop, brief.spans[loop.sound->span], loop.mix.heard());
}

}  // namespace octaphon
