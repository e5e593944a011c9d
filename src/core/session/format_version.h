// What begins every JSON file of ours: its format and version.
#pragma once

#include <string>
#include <string_view>

#include <nlohmann/json_fwd.hpp>

#include "base/result.h"

namespace octaphon {

/// Refuses what is not of this format, or of a newer version, before anything else is looked at. `what`: the
/// word for people, as in `session`.
Result<> checkFormat(const nlohmann::json& root, std::string_view format, const std::string& what,
                     const std::string& file);

}  // namespace octaphon
