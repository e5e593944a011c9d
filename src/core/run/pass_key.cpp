#include "run/pass_key.h"

#include <tuple>

namespace octaphon {

PassKey passKeyOf(const Sheet& sheet, const Row& row) {
  const PlannedSpan& span = sheet.spanOf(row);
  return passKeyOf(span, countingOf(sheet.briefOf(row).brief, span, sheet.rate));
}

PassKey passKeyOf(const PlannedSpan& span, const Counting& counting) {
  const bool tailCounts = span.finish || span.asHeard || counting.counts == Counts::EverythingHeard;
  PassKey key;
  key.start = span.start;
  key.length = span.length;
  key.leadIn = span.leadIn;
  key.tail = tailCounts ? span.tail : 0;
  key.finish = span.finish;
  key.asHeard = span.asHeard;
  key.context = span.context;
  key.loop = span.loop;
  if (span.isFiltered()) key.only = span.key();
  key.counting = counting;
  return key;
}

PlannedSpan PassKey::span() const {
  PlannedSpan span = PlannedSpan::stretch(start, length);
  span.leadIn = leadIn;
  span.tail = tail;
  span.finish = finish;
  span.asHeard = asHeard;
  span.context = context;
  span.loop = loop;
  if (const auto named = parseSpanKey(only)) std::tie(span.kind, span.id) = *named;
  return span;
}

}  // namespace octaphon
