// The programs as they describe themselves.
#pragma once

#include <vector>

#include "manual/command_model.h"

namespace octaphon::manual {

Command commandLine();
/// Those that people start: the command line, the desktop program, the stand-in receiver; and the worker,
/// which they may find running.
std::vector<Command> programs();

}  // namespace octaphon::manual
