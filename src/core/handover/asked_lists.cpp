#include "handover/asked_lists.h"

#include "base/files.h"
#include "handover/known_deliveries.h"

namespace octaphon {

std::map<FolderPath, ListKinds> askedLists(const Sheet& sheet) {
  std::map<FolderPath, ListKinds> asked;
  for (const PlannedBrief& brief : sheet.briefs)
    for (const ListInfo& info : kListInfos)
      if (brief.brief.handOver.*info.asked) asked[brief.base].insert(info.kind);
  return asked;
}

void noteDeliveries(const Sheet& sheet, const std::filesystem::path& session) {
  std::set<FolderPath> bases;
  for (const PlannedBrief& brief : sheet.briefs)
    if (brief.rowCount > 0) bases.insert(brief.base);
  for (const FolderPath& base : bases) noteDelivery({absoluteOf(base.full()), absoluteOf(session)});
}

}  // namespace octaphon
