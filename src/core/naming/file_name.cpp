#include "naming/file_name.h"

#include <algorithm>
#include <array>

#include "base/ascii.h"
#include "base/unicode.h"

namespace octaphon {
namespace {

constexpr std::string_view kForbidden = "<>:\"/\\|?*";

/// By byte: 1 for what no name may hold, 2 for what has to be looked at as Unicode.
constexpr std::array<char, 256> kKinds = [] {
  std::array<char, 256> kinds{};
  for (std::size_t i = 0; i < 0x20; ++i) kinds[i] = 2;
  for (std::size_t i = 0x7F; i < 256; ++i) kinds[i] = 2;
  for (const char c : kForbidden) kinds[static_cast<unsigned char>(c)] = 1;
  return kinds;
}();

char kindOf(char c) { return kKinds[static_cast<unsigned char>(c)]; }
bool isForbidden(char c) { return kindOf(c) == 1; }

/// Plain ASCII, as it may stay but for reserved words and its ends.
bool isPlain(std::string_view name) {
  return std::all_of(name.begin(), name.end(), [](char c) { return kindOf(c) == 0; });
}

bool isReserved(std::string_view name) {
  constexpr std::array<std::string_view, 4> kDevices{"con", "prn", "aux", "nul"};
  constexpr std::size_t kLongestDevice = 5;  // `COM¹`, in bytes
  std::string_view head = name.substr(0, name.find('.'));
  while (!head.empty() && head.back() == ' ') head.remove_suffix(1);
  if (head.size() < 3 || head.size() > kLongestDevice) return false;
  const std::string stem = lowerCase(head);
  if (std::find(kDevices.begin(), kDevices.end(), stem) != kDevices.end()) return true;
  const bool port = stem.starts_with("com") || stem.starts_with("lpt");
  if (!port) return false;
  const std::string_view number = std::string_view(stem).substr(3);
  constexpr std::array<std::string_view, 3> kRaised{"¹", "²", "³"};
  return (number.size() == 1 && number[0] >= '1' && number[0] <= '9') ||
         std::find(kRaised.begin(), kRaised.end(), number) != kRaised.end();
}

}  // namespace

std::string allowedName(std::string_view name) {
  std::string result = isPlain(name) ? std::string(name) : composed(withoutControls(name, "_"));
  std::replace_if(result.begin(), result.end(), isForbidden, '_');
  while (!result.empty() && (result.back() == ' ' || result.back() == '.')) result.pop_back();
  result.erase(0, std::min(result.find_first_not_of(' '), result.size()));
  if (!result.empty() && result.front() == '.') result.front() = '_';
  if (isReserved(result)) result.insert(std::min(result.find('.'), result.size()), "_");
  return result;
}

std::string_view numberAtEnd(std::string_view name) {
  std::size_t begin = name.size();
  while (begin > 0 && isDigit(name[begin - 1])) --begin;
  return name.substr(begin);
}

std::vector<std::string> pathParts(std::string_view name) {
  std::vector<std::string> parts;
  while (true) {
    const std::size_t slash = name.find('/');
    parts.emplace_back(name.substr(0, slash));
    if (slash == std::string_view::npos) return parts;
    name.remove_prefix(slash + 1);
  }
}

std::string_view lastPart(std::string_view name) {
  const std::size_t slash = name.rfind('/');
  return slash == std::string_view::npos ? name : name.substr(slash + 1);
}

std::string baseName(std::string_view name) {
  const std::size_t head = name.size() - lastPart(name).size();
  std::size_t end = name.size();
  while (end > head && isDigit(name[end - 1])) --end;
  if (end == name.size() || end == head) return std::string(name);
  while (end > head && std::string_view(" _-.#").find(name[end - 1]) != std::string_view::npos) --end;
  return std::string(end == head ? name : name.substr(0, end));
}

}  // namespace octaphon
