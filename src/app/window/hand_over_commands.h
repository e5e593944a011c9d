// A session of the results, and the way back from a file: commands that ask for files.
#pragma once

#include "app/commands/commands.h"
#include "app/window/session_flow.h"

namespace octaphon::app {

void addHandOverCommands(Commands& commands, Work& work, SessionFlow& sessions, QWidget* window);

}  // namespace octaphon::app
