// The overview of all commands in a document.
#pragma once

#include <string>

#include "manual/command_model.h"

namespace octaphon::manual {

/// The document with what stands between its marks made anew; empty where it has none.
std::string withOverview(const std::string& document, const Command& program);

}  // namespace octaphon::manual
