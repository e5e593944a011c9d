// Making files, and what stands around that: editions, numbers, left-over files, folders.
#pragma once

#include "app/commands/commands.h"

namespace octaphon::app {

void addDeliveryCommands(Commands& commands, Work& work);

}  // namespace octaphon::app
