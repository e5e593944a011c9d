// How loud a file is, as it decodes.
#pragma once

#include <filesystem>

#include "base/result.h"
#include "level/levels.h"

namespace octaphon {

/// MediumMissing or MediumUnreadable with the reason; NotFinite where it holds what is no number.
Result<Levels> levelsOf(const std::filesystem::path& file, LevelsAsked asked);

}  // namespace octaphon
