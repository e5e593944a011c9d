#include "run/pass_loops.h"

#include <algorithm>

#include "loop/blend.h"
#include "loop/seam_search.h"

namespace octaphon {

std::optional<std::size_t> PassLoops::add(std::size_t row) {
  const TappedSound& sound = sheet_.soundOf(sheet_.rows[row]);
  const PlannedBrief& brief = sheet_.briefs[sound.brief];
  const SpanLoopPlan& loop = brief.ends[sound.span].loop;
  const bool isLikenessAsked =
      loop.asked.way == LoopWay::Blend && loop.asked.blendLaw == BlendLaw::ByLikeness;
  if (!isLikenessAsked && !loop.isSearched()) return std::nullopt;
  for (std::size_t i = 0; i < loops_.size(); ++i)
    if (loops_[i].sound->brief == sound.brief && loops_[i].sound->span == sound.span) return i;
  PlannedSource mix;
  mix.id = "main";
  const Tap tap = recipe_.tap(brief.brief, mix);
  LoopOfSpan& made =
      loops_.emplace_back(LoopOfSpan{&sound, taps_.add(tap.node, {&brief.brief, {mix}, false})});
  made.heard.rate = sheet_.rate;
  made.heard.channels.resize(static_cast<std::size_t>(tap.channels));
  return loops_.size() - 1;
}

void PassLoops::begin(const TapSource& source) {
  for (LoopOfSpan& loop : loops_) loop.skipped = loop.latency = source.latency(loop.tap);
}

void PassLoops::take(const TapSource& source, Frame at, Frame frames) {
  for (LoopOfSpan& loop : loops_) {
    const Frame before = std::clamp<Frame>(-at, 0, frames);
    const Frame skipped = std::min(loop.skipped, frames - before);
    loop.skipped -= skipped;
    const TapBlock block = source.tap(loop.tap).after(before + skipped);
    const Frame wanted = spanOf(loop).heardFrames() - loop.heard.frames();
    const auto count = static_cast<std::size_t>(std::clamp<Frame>(frames - before - skipped, 0, wanted));
    for (std::size_t c = 0; c < loop.heard.channels.size(); ++c) {
      std::vector<float>& heard = loop.heard.channels[c];
      if (block.isSilent())
        heard.resize(heard.size() + count, 0.0f);
      else
        heard.insert(heard.end(), block.channel[c], block.channel[c] + count);
    }
  }
}

Frame PassLoops::framesWanted() const {
  Frame wanted = 0;
  for (const LoopOfSpan& loop : loops_) wanted = std::max(wanted, spanOf(loop).heardFrames() + loop.latency);
  return wanted;
}

LoopDecision PassLoops::decide(std::size_t index) const {
  const LoopOfSpan& loop = loops_[index];
  const SpanLoopPlan& plan = endsOf(loop).loop;
  const PlannedSpan& span = spanOf(loop);
  LoopDecision decision;
  decision.from = span.leadIn;
  decision.frames = span.length;
  if (plan.asked.way == LoopWay::Blend) {
    const Lap coming = partOf(loop.heard, 0, plan.blend);
    const Lap going = partOf(loop.heard, span.leadIn + span.length - plan.blend, plan.blend);
    decision.blendLaw = correlationOf(going, coming) >= kAlike ? BlendLaw::EqualGain : BlendLaw::EqualPower;
  } else {
    const std::vector<LoopCandidate> found =
        searchLoop(loop.heard, {span.leadIn, span.length}, {plan.search, plan.isLengthKept});
    decision.from = found.front().place.start;
    decision.frames = found.front().place.length;
  }
  return decision;
}

}  // namespace octaphon
