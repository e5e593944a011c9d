// Groups guessed from folders or from how names begin; offered, never imposed.
#pragma once

#include <string>
#include <vector>

namespace octaphon {

struct GroupGuess {
  std::string name;
  std::vector<std::size_t> members;  ///< indices of what was given, two at least for prefixes
  bool operator==(const GroupGuess&) const = default;
};

/// By the first folder below the deepest one that all paths share (`/` between parts). Files right in that
/// folder are in no group. In natural order of the names.
std::vector<GroupGuess> groupsByFolder(const std::vector<std::string>& paths);

/// By what stands before the first `_`, `-` or space; two names at least, and not all of them.
std::vector<GroupGuess> groupsByPrefix(const std::vector<std::string>& names);

/// Takes of one name: files of one folder whose names are alike but for the number at their end; two at
/// least. Where folders have takes of the same name, the folder's stands before it. In natural order of the
/// names, and so the members.
std::vector<GroupGuess> takesIn(const std::vector<std::string>& names, const std::vector<std::string>& paths);

}  // namespace octaphon
