#include "run/pass_key.h"

namespace octaphon {

PassKey passKeyOf(const Sheet& sheet, const Row& row) {
  const PlannedSpan& span = sheet.spanOf(row);
  const bool isSet = span.kind == PlannedSpan::Kind::ClipSet;
  return {span.start, span.length, span.finish, isSet ? span.id : std::string(),
          countingOf(sheet.briefOf(row).brief, sheet.rate)};
}

PlannedSpan PassKey::span() const {
  PlannedSpan span = PlannedSpan::stretch(start, length, finish);
  span.kind = clipSet.empty() ? PlannedSpan::Kind::Region : PlannedSpan::Kind::ClipSet;
  span.id = clipSet;
  return span;
}

}  // namespace octaphon
