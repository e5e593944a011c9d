// Briefs and the files they ask for.
#pragma once

#include "app/commands/commands.h"

namespace octaphon::app {

void addBriefCommands(Commands& commands, Work& work);

}  // namespace octaphon::app
