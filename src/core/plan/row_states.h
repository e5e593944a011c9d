// What is true of each row's file, from what stands in the target folders.
#pragma once

#include <map>
#include <set>
#include <string>

#include "ledger/folder_listing.h"
#include "plan/sheet.h"

namespace octaphon {

/// The files to look for, by base folder.
std::map<std::filesystem::path, std::set<std::string>> plannedFiles(const Sheet& sheet);

/// Sets the state of every row and adds the remarks that follow from it. Rows with a fault stay Fault.
void setStates(Sheet& sheet, const std::map<std::filesystem::path, FolderFacts>& folders);

}  // namespace octaphon
