// The overview of all commands in a document.
#pragma once

#include <string>

#include "manual/command_model.h"

namespace octaphon::manual {

/// What stands in a document under the mark `usage`.
std::string overview(const Command& program);

}  // namespace octaphon::manual
