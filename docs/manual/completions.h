// Completion of the command line: options, words that they take, files, and the names of a session's briefs.
#pragma once

#include <string>

#include "manual/command_model.h"

namespace octaphon::manual {

std::string bashCompletion(const Command& program);
std::string zshCompletion(const Command& program);
std::string fishCompletion(const Command& program);

}  // namespace octaphon::manual
