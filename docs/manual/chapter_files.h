// What comes of the sessions of the guide's chapters, for the page that tells of them.
#pragma once

#include <filesystem>
#include <string>

#include "base/result.h"

namespace octaphon::manual {

/// The page with the sentences and file names of each chapter's session under the mark `chapter NAME`;
/// `chapters` holds a folder for each.
Result<std::string> withChapters(std::string page, const std::filesystem::path& chapters);

}  // namespace octaphon::manual
