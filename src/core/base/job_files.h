// What takes long with large files, and can be stopped.
#pragma once

#include <filesystem>

#include "base/files.h"
#include "base/job_control.h"

namespace octaphon {

/// Hash of all bytes. Cancelled where it was stopped.
Result<Digest> digestOf(int fd, const std::string& place, const JobControl* job);

/// A copy with the same rights, whole or not at all. Occupied where there is a file of this name; Cancelled
/// where it was stopped.
Result<> copyFile(const std::filesystem::path& from, const std::filesystem::path& to, const JobControl* job);

}  // namespace octaphon
