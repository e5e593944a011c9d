// Playing and stepping from region to region.
#pragma once

#include "app/commands/commands.h"

namespace octaphon::app {

void addListenCommands(Commands& commands, Work& work);

}  // namespace octaphon::app
