// Print this: a brief that is aimed at what is pointed at; and briefs as files.
#pragma once

#include "app/commands/commands.h"

namespace octaphon::app {

void addPrintCommands(Commands& commands, Work& work);

}  // namespace octaphon::app
