// The commands that shape a session: each works on what is selected, is one step of undo and says what it
// did.
#pragma once

#include "app/commands/commands.h"

namespace octaphon::app {

void addEditCommands(Commands& commands, Work& work);
void addMarkCommands(Commands& commands, Work& work);
void addTrackCommands(Commands& commands, Work& work);

}  // namespace octaphon::app
