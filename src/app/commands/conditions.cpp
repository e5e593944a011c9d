#include "app/commands/conditions.h"

namespace octaphon::app {

Conditions conditionsOf(Work& work) {
  Conditions now;
  const Selected& selected = work.selected();
  now.open = work.document().isOpen();
  now.idle = !work.making().isRunning();
  now.underway = !now.idle || !work.jobs().jobs().empty();
  now.free = !work.jobs().isBusy(LongJobs::Kind::Session);
  now.clips = !selected.clips().empty();
  now.regions = !selected.regions().empty();
  now.tracks = !selected.tracks().empty();
  now.clipSets = !selected.clipSets().empty();
  now.markers = !selected.markers().empty();
  now.range = selected.range().has_value();
  now.brief = work.briefs().current() != nullptr;
  now.row = !work.rows().isEmpty();
  for (const std::size_t row : work.rows().rows())
    now.ownRow = now.ownRow || work.rows().sheet()->rows[row].exception.has_value();
  now.undo = work.document().undoStack().canUndo();
  now.redo = work.document().undoStack().canRedo();
  const SheetCounts& counts = work.sheets().counts();
  now.due = counts.makeable > 0 || work.sheets().isPlanning();
  now.again = counts.again > 0;
  now.failed = !work.maker().failed().empty();
  now.leftOver = counts.leftOver > 0 && !work.cleaning().isRunning();
  for (const PlannedBrief& brief : work.sheets().sheet()->briefs) {
    if (brief.brief.id != work.briefs().currentId()) continue;
    now.begun = brief.isBegun || work.acts().newEditions().contains(brief.brief.id);
    now.numbered = brief.fixed != nullptr;
  }
  return now;
}

}  // namespace octaphon::app
