#include "app/work/in_step.h"

namespace octaphon::app {

InStep::InStep(Document& document, Selected& selected, SheetKeeper& sheets, QObject* parent)
    : QObject(parent), document_(document), selected_(selected), sheets_(sheets) {
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
  isFollowing_ = true;
  if (!regions.empty())
    selected_.set(Thing::Region, std::move(regions));
  else if (!sets.empty())
    selected_.set(Thing::ClipSet, std::move(sets));
  selected_.prune(*document_.session());  // the sheet may be older
  isFollowing_ = false;
}

void InStep::followThings() {
  const Ids &regions = selected_.regions(), &sets = selected_.clipSets(), &tracks = selected_.tracks();
  if (isFollowing_ || (regions.empty() && sets.empty() && tracks.empty())) return;
  const Sheet& sheet = *sheets_.sheet();
  std::vector<std::size_t> rows;
  for (std::size_t i = 0; i < sheet.rows.size(); ++i) {
    const PlannedSpan& span = sheet.spanOf(sheet.rows[i]);
    const bool isIn = (span.kind == PlannedSpan::Kind::Region && regions.contains(span.id)) ||
                      (span.kind == PlannedSpan::Kind::ClipSet && sets.contains(span.id)) ||
                      tracks.contains(sheet.sourceOf(sheet.rows[i]).id);
    if (isIn) rows.push_back(i);
  }
  if (!rows.empty()) emit rowsWanted(rows);
}

}  // namespace octaphon::app
