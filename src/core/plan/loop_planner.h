// The loops of a brief, once its spans are known: bodies of variations, and the laps that inner laps need.
#pragma once

#include "plan/sheet.h"
#include "recipe/recipe.h"

namespace octaphon {

/// Sets lengths and laps, and adds what is wrong to the spans' ends. Works in parallel on the caller's arena.
/// `rates`: of the files, in Hz.
void planLoops(PlannedBrief& planned, const SpanEndsPlanner& ends, const SignalContext& context,
               const std::vector<int>& rates);

/// What is to be said of a loop's sound; nothing where it is well.
std::optional<Remark> loopRemark(const SpanEnds& ends, const PlannedSpan& span, const SpanRecipe& recipe,
                                 NodeIndex tap);

}  // namespace octaphon
