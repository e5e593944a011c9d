// Files that a subcommand makes and never replaces.
#pragma once

#include <filesystem>
#include <optional>

#include "base/result.h"

namespace octaphon::cli {

/// Why no file can be made there; nothing where one can.
std::optional<Error> whyNoNewFile(const std::filesystem::path& file);

}  // namespace octaphon::cli
