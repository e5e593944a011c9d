// Files to the trash: freedesktop.org, "The FreeDesktop.org Trash specification", version 1.0.
#pragma once

#include <string_view>

#include "base/safe_folder.h"

namespace octaphon {

/// Moves a file below a folder to the trash of its file system: the user's own ($XDG_DATA_HOME/Trash) where
/// that lies on the same one, else that of its top directory. Unsupported where there is no trash to be had;
/// nothing has happened then.
Result<> moveToTrash(const SafeFolder& folder, std::string_view relative);

}  // namespace octaphon
