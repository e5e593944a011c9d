#include "run/planned_as_made.h"

#include "formats/planned_facts.h"
#include "naming/file_name.h"
#include "plan/row_loop.h"

namespace octaphon {
namespace {

MadePlace placeOf(const Sheet& sheet, const Row& row, const Extent& extent) {
  MadePlace place{sheet.rate, sessionStart(sheet.endsOf(row).extent, extent), extent.leadIn, extent.body,
                  extent.tail};
  if (const auto loop = loopOf(sheet, row, extent)) {
    place.loopWay = nameOf(loop->way);
    place.beats = loop->beats;
    place.laps = loop->laps;
  }
  return place;
}

}  // namespace

MadeFile plannedAsMade(const Sheet& sheet, const Row& row, const Extent& extent, const FileData& data) {
  const FileFacts says = plannedFacts(sheet.formOf(row), data);
  MadeFile made;
  made.encoding = encodingInfo(row.encoding).name;
  made.rate = row.rate;
  made.channels = row.channels;
  made.span = sheet.spanOf(row).name;
  made.source = sheet.sourceOf(row).name;
  made.family = baseName(made.span);
  const GainSet& set = sheet.gainSetOf(sheet.soundOf(row));
  made.ceilingDb = set.asked.ceilingDb;
  const bool isItsOwn = row.isLead && row.part == 0;  // other forms may be louder or softer
  if (set.asked.level.kind == LevelKind::Loudness && set.asked.level.per == LevelPer::File && isItsOwn)
    made.lufs = set.asked.target();
  made.tags = says.tags();
  made.marks = says.marks;
  made.loops = says.loops;
  made.place = placeOf(sheet, row, extent);
  return made;
}

MadeFile withWhatIsPlanned(MadeFile made, const Sheet& sheet, const Row& row, const FileData& data) {
  MadeFile planned = plannedAsMade(sheet, row, row.extent, data);
  planned.figures = std::move(made.figures);
  planned.clipped = made.clipped;
  planned.seam = made.seam;
  planned.addsTo = std::move(made.addsTo);
  planned.layers = made.layers;
  planned.remarks = std::move(made.remarks);
  return planned;
}

}  // namespace octaphon
