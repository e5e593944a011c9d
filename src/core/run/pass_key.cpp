#include "run/pass_key.h"

namespace octaphon {

PassKey passKeyOf(const Sheet& sheet, const Row& row) {
  const PlannedSpan& span = sheet.spanOf(row);
  return passKeyOf(span, countingOf(sheet.briefOf(row).brief, sheet.rate));
}

PassKey passKeyOf(const PlannedSpan& span, const Counting& counting) {
  const bool isSet = span.kind == PlannedSpan::Kind::ClipSet;
  const bool tailCounts = span.finish || counting.counts == Counts::EverythingHeard;
  return {span.start, span.length, span.finish, tailCounts ? span.tail : 0, isSet ? span.id : "", counting};
}

PlannedSpan PassKey::span() const {
  PlannedSpan span = PlannedSpan::stretch(start, length);
  span.finish = finish;
  span.tail = tail;
  span.kind = clipSet.empty() ? PlannedSpan::Kind::Region : PlannedSpan::Kind::ClipSet;
  span.id = clipSet;
  return span;
}

}  // namespace octaphon
