// Files that are installed with this program and used when they are needed.
#pragma once

#include <filesystem>
#include <string>

namespace octaphon {

/// Beside this program, where it was built (`folder` below src), or in libexec/octaphon. It may not be there.
std::filesystem::path companionFile(const std::string& name, const std::string& folder);

}  // namespace octaphon
