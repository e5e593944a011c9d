#include "edit/grouping.h"

#include <algorithm>
#include <map>

#include "base/unicode.h"
#include "naming/file_name.h"

namespace octaphon {
namespace {

struct NaturalOrder {
  bool operator()(const std::string& a, const std::string& b) const { return naturalLess(a, b); }
};
using Found = std::map<std::string, std::vector<std::size_t>, NaturalOrder>;

std::vector<GroupGuess> guesses(Found&& found) {
  std::vector<GroupGuess> groups;
  for (auto& [name, members] : found) groups.push_back({name, std::move(members)});
  return groups;
}

std::string folderOf(const std::string& path) {
  const std::size_t slash = path.rfind('/');
  return slash == std::string::npos ? std::string() : path.substr(0, slash + 1);
}

/// The deepest folder that all are in, with its slash.
std::string sharedFolder(const std::vector<std::string>& paths) {
  std::string shared = paths.empty() ? std::string() : folderOf(paths.front());
  for (const std::string& path : paths)
    while (!path.starts_with(shared)) {
      shared.pop_back();
      shared = folderOf(shared);
    }
  return shared;
}

}  // namespace

std::vector<GroupGuess> groupsByFolder(const std::vector<std::string>& paths) {
  const std::string shared = sharedFolder(paths);
  Found found;
  for (std::size_t i = 0; i < paths.size(); ++i) {
    const std::size_t slash = paths[i].find('/', shared.size());
    if (slash != std::string::npos) found[paths[i].substr(shared.size(), slash - shared.size())].push_back(i);
  }
  return guesses(std::move(found));
}

std::vector<GroupGuess> groupsByPrefix(const std::vector<std::string>& names) {
  Found found;
  for (std::size_t i = 0; i < names.size(); ++i) {
    const std::size_t end = names[i].find_first_of("_- ");
    if (end != std::string::npos && end > 0) found[names[i].substr(0, end)].push_back(i);
  }
  std::erase_if(found, [&](const auto& group) {
    return group.second.size() < 2 || group.second.size() == names.size();
  });
  return guesses(std::move(found));
}

std::vector<GroupGuess> takesIn(const std::vector<std::string>& names,
                                const std::vector<std::string>& paths) {
  Found found;
  std::map<std::string, int> folders;  // how many have takes of a name
  for (std::size_t i = 0; i < names.size(); ++i)
    found[folderOf(paths[i]) + '\n' + baseName(names[i])].push_back(i);
  std::erase_if(found, [](const auto& takes) { return takes.second.size() < 2; });
  const auto nameOf = [](const std::string& key) { return key.substr(key.find('\n') + 1); };
  for (const auto& [key, members] : found) ++folders[nameOf(key)];
  std::vector<GroupGuess> takes = guesses(std::move(found));
  for (GroupGuess& guess : takes) {
    std::stable_sort(guess.members.begin(), guess.members.end(),
                     [&](std::size_t a, std::size_t b) { return naturalLess(names[a], names[b]); });
    const std::string name = nameOf(guess.name);
    std::string folder = folderOf(paths[guess.members.front()]);
    if (!folder.empty()) folder.pop_back();  // its slash
    guess.name = folders[name] > 1 ? std::string(lastPart(folder)) + ' ' + name : name;
  }
  return takes;
}

}  // namespace octaphon
