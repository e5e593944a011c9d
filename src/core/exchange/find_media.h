// Media that are not where the session says, looked for in a folder and those in it.
#pragma once

#include <filesystem>
#include <map>
#include <string>
#include <vector>

#include "base/job_control.h"
#include "session/session.h"

namespace octaphon {

/// How sure it is that a file is the one.
enum class Likeness {
  Content,  ///< the same bytes
  Length,   ///< the same name and length
  Name,     ///< the same name; nothing else is known of the medium
};

struct FoundMedium {
  std::filesystem::path file;
  Likeness likeness;
};

/// By id of the medium: the likeliest file. A file of the same name that is known to be of another length is
/// not taken; a file of another name is, where its length and its bytes are those of the medium. A part of
/// the job is a medium; what was found before it was stopped is given.
std::map<std::string, FoundMedium> findMedia(const Session& session, const std::vector<std::string>& media,
                                             const std::filesystem::path& folder, JobControl* job = nullptr);

}  // namespace octaphon
