// What checking found, for people and programs.
#pragma once

#include "check/changes.h"
#include "check/check_folder.h"
#include "common.h"

namespace octaphon::cli {

void printFindings(const CheckReport& report, const FolderPath& base, bool json);
/// What was measured of each file that could be read.
void printFigures(const CheckReport& report, const FolderPath& base, bool json);
void printChange(const FileChange& change, bool json);
void printChanges(const Changes& changes, bool json);

}  // namespace octaphon::cli
