// What is true of each row's file, from what stands in the target folders.
#pragma once

#include <map>
#include <set>
#include <string>

#include "ledger/folder_listing.h"
#include "plan/sheet.h"
#include "recipe/recipe.h"

namespace octaphon {

/// The files to look for, by base folder.
std::map<FolderPath, std::set<std::string>> plannedFiles(const Sheet& sheet);

/// Sets the state of every row of a fresh sheet, adds the remarks that follow from it, and says what else
/// stands in the folders. Rows with a fault stay Fault, and those that are held back HeldBack. Fingerprints
/// are worked out only where a file of ours is there.
void setStates(Sheet& sheet, const SignalContext& context, const std::map<FolderPath, FolderFacts>& folders);

/// Whether a remark is about what lies in the folder before a row is made, and not about the row.
bool isAboutFolder(RemarkCode code);

/// About a tail that its limit stopped.
Remark tailLimitedRemark(const Sheet& sheet, const Row& row, const RungOut& rungOut);

}  // namespace octaphon
