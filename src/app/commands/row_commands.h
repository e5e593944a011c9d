// The rows of the sheet that are selected.
#pragma once

#include "app/commands/commands.h"

namespace octaphon::app {

void addRowCommands(Commands& commands, Work& work);

}  // namespace octaphon::app
