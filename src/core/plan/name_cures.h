// Ways out of names that do not go: other templates, offered and never taken by themselves.
#pragma once

#include <string>
#include <vector>

#include "plan/sheet.h"

namespace octaphon {

struct NameCure {
  std::string words;   ///< `Add {n.name} at the end`
  std::string format;  ///< the template with it
};

/// For what is wrong with the template and the names of a planned brief, the likeliest first; none where all
/// is well. `format` is the template as it stands now, which the sheet may not have yet.
std::vector<NameCure> nameCures(const Sheet& sheet, std::size_t brief, const std::string& format);

}  // namespace octaphon
