#include "app/work/in_step.h"

#include <algorithm>

namespace octaphon::app {

InStep::InStep(Document& document, Selected& selected, RowChoice& rows, QObject* parent)
    : QObject(parent), document_(document), selected_(selected), rows_(rows) {
  connect(&selected_, &Selected::changed, this, &InStep::followThings);
}

/// Rows of one kind of span: what is selected there is only taken away for something else.
void InStep::followRows(const Sheet& sheet, const std::vector<std::size_t>& rows) {
  Ids regions, sets;
  for (const std::size_t row : rows) {
    const PlannedSpan& span = sheet.spanOf(sheet.rows[row]);
    if (span.kind == PlannedSpan::Kind::Region) regions.insert(span.id);
    if (span.kind == PlannedSpan::Kind::ClipSet) sets.insert(span.id);
  }
  const Pause pause(*this);
  if (!regions.empty())
    selected_.set(Thing::Region, std::move(regions));
  else if (!sets.empty())
    selected_.set(Thing::ClipSet, std::move(sets));
  selected_.prune(document_.session(), true);  // the sheet may be older
}

/// Rows are by span.
static std::size_t firstRowOf(const Sheet& sheet, const PlannedBrief& brief, std::size_t span) {
  const auto begin = sheet.rows.begin() + static_cast<std::ptrdiff_t>(brief.firstRow);
  const auto found = std::partition_point(begin, begin + static_cast<std::ptrdiff_t>(brief.rowCount),
                                          [&](const Row& row) { return sheet.soundOf(row).span < span; });
  return static_cast<std::size_t>(found - sheet.rows.begin());
}

void InStep::followThings() {
  const Ids &regions = selected_.regions(), &sets = selected_.clipSets(), &tracks = selected_.tracks();
  if (isFollowing_ || (regions.empty() && sets.empty() && tracks.empty())) return;
  const auto kept = rows_.sheet();
  const Sheet& sheet = *kept;
  std::vector<std::size_t> rows;
  for (const PlannedBrief& brief : sheet.briefs) {
    std::vector<char> isSpan, isSource;  // far fewer than rows
    for (const PlannedSpan& span : brief.spans)
      isSpan.push_back((span.kind == PlannedSpan::Kind::Region && regions.contains(span.id)) ||
                       (span.kind == PlannedSpan::Kind::ClipSet && sets.contains(span.id)));
    for (const PlannedSource& source : brief.sources) isSource.push_back(tracks.contains(source.id));
    const auto take = [&](std::size_t from, std::size_t to) {
      for (std::size_t i = from; i < to; ++i) {
        const TappedSound& sound = sheet.soundOf(sheet.rows[i]);
        if (isSpan[sound.span] != 0 || isSource[sound.source] != 0) rows.push_back(i);
      }
    };
    if (!tracks.empty()) {
      take(brief.firstRow, brief.firstRow + brief.rowCount);
      continue;
    }
    for (std::size_t span = 0; span < isSpan.size(); ++span)
      if (isSpan[span] != 0) take(firstRowOf(sheet, brief, span), firstRowOf(sheet, brief, span + 1));
  }
  if (!rows.empty()) rows_.showAll(rows, false);
}

}  // namespace octaphon::app
