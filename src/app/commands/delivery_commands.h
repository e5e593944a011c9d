// Making files, and what stands around that: editions, numbers, left-over files, folders.
#pragma once

#include <optional>

#include "app/commands/commands.h"

namespace octaphon::app {

/// The base folder of the brief that is looked at; nothing, and it is told why, where it is not there.
std::optional<FolderPath> folderOfBrief(Work& work);

void addDeliveryCommands(Commands& commands, Work& work);

}  // namespace octaphon::app
