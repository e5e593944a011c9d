#include "new_file.h"

#include <sys/stat.h>

#include <cerrno>

namespace octaphon::cli {

std::optional<Error> whyNoNewFile(const std::filesystem::path& file) {
  struct stat info;
  if (::lstat(file.c_str(), &info) == 0)
    return Error{ErrorCode::Occupied, file.string(), "there is a file of this name already",
                 "Choose another name"};
  if (errno == ENOENT) return std::nullopt;
  return systemError(errno, file.string(), ErrorCode::NotWritable);
}

}  // namespace octaphon::cli
