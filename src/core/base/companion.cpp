#include "base/companion.h"

namespace octaphon {

std::filesystem::path companionFile(const std::string& name, const std::string& folder) {
  std::error_code problem;
  const std::filesystem::path self = std::filesystem::read_symlink("/proc/self/exe", problem).parent_path();
  for (const std::string& place :
       {name, "../" + folder + "/" + name, "../src/" + folder + "/" + name, "../libexec/octaphon/" + name})
    if (std::filesystem::exists(self / place, problem)) return self / place;
  return self / name;
}

}  // namespace octaphon
