// What has to be checked of a sheet: a request for each base folder.
#pragma once

#include <map>

#include "check/check_folder.h"
#include "check/read_behind.h"
#include "plan/sheet.h"
#include "run/runner.h"

namespace octaphon {

/// Of all briefs of the sheet; with `onlyThese`, nothing else that was delivered into their folders.
std::map<FolderPath, CheckRequest> checksOf(const Sheet& sheet, bool onlyThese);

/// What is read behind the run that made a row.
WrittenFile writtenFileOf(const Sheet& sheet, const RowOutcome& outcome);

}  // namespace octaphon
