#include "run/check_sheet.h"

namespace octaphon {

std::map<FolderPath, CheckRequest> checksOf(const Sheet& sheet, bool onlyThese) {
  std::map<FolderPath, CheckRequest> requests;
  for (const PlannedBrief& brief : sheet.briefs) {
    CheckRequest& request = requests[brief.base];
    request.base = brief.base;
    request.session = sheet.sessionFile;
    request.plannedBriefs.insert(brief.brief.id);
    if (onlyThese) request.briefs.insert(brief.brief.id);
    for (const AcceptedRemark& one : brief.brief.accepted)
      request.accepted[brief.brief.id].push_back({one.code, one.reason, one.rows});
    for (std::size_t i = brief.firstRow; i < brief.firstRow + brief.rowCount; ++i) {
      const Row& row = sheet.rows[i];
      if (!row.isHeldBack && !row.file.empty()) request.planned.emplace(sheet.keyOf(row), row.file);
    }
  }
  return requests;
}

WrittenFile writtenFileOf(const Sheet& sheet, const RowOutcome& outcome) {
  const Row& row = sheet.rows[outcome.row];
  const Levelling& asked = sheet.gainSetOf(sheet.soundOf(row)).asked;
  const bool isOfLoudness = asked.level.kind == LevelKind::Loudness && asked.level.per == LevelPer::File;
  WrittenFile file{sheet.briefOf(row).base, row.file, sheet.keyOf(row)};
  file.asked = readBackAskedOf(asked.ceilingDb, isOfLoudness ? std::optional(asked.target()) : std::nullopt);
  if (row.from != row.file && !row.isUnfinished()) file.before = row.from;
  const bool isWrittenAnew = outcome.deed == Deed::Rendered;
  file.hasReplaced = isWrittenAnew && row.state != RowState::ToMake;
  file.replaced = outcome.replaced;
  return file;
}

}  // namespace octaphon
