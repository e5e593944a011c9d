#include "plan/row_loop.h"

namespace octaphon {

std::optional<RowLoop> loopOf(const Sheet& sheet, const Row& row, const Extent& extent) {
  const SpanLoopPlan& plan = sheet.endsOf(row).loop;
  const PlannedSpan& span = sheet.spanOf(row);
  if (!plan.isThere()) return std::nullopt;
  RowLoop loop{plan.asked.way, extent.leadIn, extent.body, {}, span.loop.laps};
  const Frame planned = atRate(span.length, sheet.rate, row.rate);
  if (plan.beats && planned > 0)  // a join that was moved has other beats
    loop.beats =
        *plan.beats *
        (extent.body == planned ? 1.0 : static_cast<double>(extent.body) / static_cast<double>(planned));
  return loop;
}

}  // namespace octaphon
