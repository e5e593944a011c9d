// How a row's sound is finished, out of the sheet.
#pragma once

#include "finish/finish_plan.h"
#include "plan/sheet.h"

namespace octaphon {

/// What is played for the row's lap, and which way it is made of that.
inline LapPlan lapPlanOf(const Sheet& sheet, const Row& row) {
  const SpanLoopPlan& loop = sheet.endsOf(row).loop;
  const PlannedSpan& span = sheet.spanOf(row);
  return {span.loop.way,        span.leadIn,         span.length,      span.loop.laps,
          span.loop.keepsIntro, loop.asked.blendLaw, loop.isSearched()};
}

}  // namespace octaphon
