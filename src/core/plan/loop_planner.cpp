#include "plan/loop_planner.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <map>

#include "base/unicode.h"
#include "naming/file_name.h"

namespace octaphon {
namespace {

/// Spans of one path and name but for the number at its end, whose files loop in one way.
std::vector<std::vector<std::size_t>> variationsOf(const PlannedBrief& planned) {
  std::map<std::pair<std::string, LoopWay>, std::vector<std::size_t>> byName;
  for (std::size_t i = 0; i < planned.spans.size(); ++i)
    if (planned.ends[i].loop.isThere() && !planned.isOwn(i))
      byName[{baseName(planned.spans[i].name), planned.spans[i].loop.way}].push_back(i);
  std::vector<std::vector<std::size_t>> variations;
  for (auto& [name, spans] : byName)
    if (spans.size() > 1) variations.push_back(std::move(spans));
  return variations;
}

void makeEqual(PlannedBrief& planned, const SpanEndsPlanner& endsPlanner,
               const std::vector<std::size_t>& spans) {
  Frame longest = 0;
  for (const std::size_t i : spans) longest = std::max(longest, planned.spans[i].length);
  for (const std::size_t i : spans) {
    SpanEnds& ends = planned.ends[i];
    PlannedSpan& span = planned.spans[i];
    const bool isOther = span.length != longest;
    if (isOther && ends.loop.asked.equal == LoopEqual::Refused)
      ends.faults.push_back({Severity::Fault, RemarkCode::UnequalLoops, span.id,
                             printable(span.name, 60) +
                                 " is shorter than another variation of the same loop. Give all "
                                 "one length, or let them be as the longest"});
    ends.loop.isLengthKept = true;
    endsPlanner.setBody(ends, span,
                        isOther && ends.loop.asked.equal == LoopEqual::Longest ? longest : span.length);
  }
}

/// As many as its tail is long in laps, one that is kept, and one that proves it.
int lapsOf(const PlannedBrief& planned, std::size_t index, const SignalContext& context, bool isConverted) {
  const PlannedSpan& span = planned.spans[index];
  const Counting counting = countingOf(planned.brief, span, context.session().rate);
  SpanRecipe recipe(context, span, counting, context.finder.heardIn(span, counting));
  Frame tail = 0;
  for (std::size_t i = 0; i < planned.sources.size(); ++i)
    if (planned.isPair(index, i))
      tail = std::max(tail, recipe.longestTail(recipe.tap(planned.brief, planned.sources[i]).node));
  // At another rate what comes before the kept lap sounds into it: that has to be a lap like it.
  const int before = span.loop.keepsIntro && isConverted ? 1 : 0;
  const Frame laps = span.length > 0 ? (tail + span.length - 1) / span.length + 2 + before : 2;
  return static_cast<int>(std::min<Frame>(laps, kMaxLaps));
}

}  // namespace

void planLoops(PlannedBrief& planned, const SpanEndsPlanner& endsPlanner, const SignalContext& context,
               const std::vector<int>& rates) {
  const bool isConverted =
      std::any_of(rates.begin(), rates.end(), [&](int rate) { return rate != context.session().rate; });
  for (const std::vector<std::size_t>& spans : variationsOf(planned)) makeEqual(planned, endsPlanner, spans);
  tbb::parallel_for(std::size_t{0}, planned.spans.size(), [&](std::size_t i) {
    SpanEnds& ends = planned.ends[i];
    PlannedSpan& span = planned.spans[i];
    if (span.loop.way == LoopWay::InnerLap && ends.loop.asked.laps == 0)
      endsPlanner.setLaps(ends, span, lapsOf(planned, i, context, isConverted));
  });
}

std::optional<Remark> loopRemark(const SpanEnds& ends, const PlannedSpan& span, const SpanRecipe& recipe,
                                 NodeIndex tap) {
  if (ends.loop.asked.way != LoopWay::Fold || tap == kSilentNode) return std::nullopt;
  const EffectInfo* effect = recipe.notAdding(tap);
  if (effect == nullptr) return std::nullopt;
  return Remark{Severity::Warning, RemarkCode::FoldOfDynamics, span.id,
                effect->name +
                    " reacts to all that sounds at once, and what is folded was not there then. An inner "
                    "lap is right here"};
}

}  // namespace octaphon
