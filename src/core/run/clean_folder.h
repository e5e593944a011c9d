// Left-over files of ours out of a folder.
#pragma once

#include <functional>
#include <string>

#include "base/result.h"
#include "plan/sheet.h"

namespace octaphon {

enum class CleanWay { Trash, Delete };

/// Takes the left-over files away, and folders that are empty then. Each is looked at once more before: one
/// that is not what the receipt says stays. While a run writes into the folder nothing is done: Busy for
/// each. `report` is called once a file.
void cleanFolder(const SheetFolder& folder, CleanWay way,
                 const std::function<void(const std::string& file, const Result<>& outcome)>& report);

}  // namespace octaphon
