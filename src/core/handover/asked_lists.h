// What the briefs of a sheet ask to be handed over.
#pragma once

#include <map>

#include "handover/list_files.h"
#include "plan/sheet.h"

namespace octaphon {

/// By base folder; what any of its briefs asks for. A list is about all that was delivered there.
std::map<FolderPath, ListKinds> askedLists(const Sheet& sheet);

/// From now on files of the sheet's folders are traced to this session, wherever they go.
void noteDeliveries(const Sheet& sheet, const std::filesystem::path& session);

}  // namespace octaphon
