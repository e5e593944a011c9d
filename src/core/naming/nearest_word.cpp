#include "naming/nearest_word.h"

#include <algorithm>

#include "base/unicode.h"

namespace octaphon {
namespace {

/// Damerau's distance in its restricted form (optimal string alignment).
std::size_t distance(std::string_view a, std::string_view b) {
  std::vector<std::vector<std::size_t>> best(a.size() + 1, std::vector<std::size_t>(b.size() + 1));
  for (std::size_t i = 0; i <= a.size(); ++i)
    for (std::size_t j = 0; j <= b.size(); ++j) {
      if (i == 0 || j == 0) {
        best[i][j] = i + j;
        continue;
      }
      best[i][j] = std::min(
          {best[i - 1][j] + 1, best[i][j - 1] + 1, best[i - 1][j - 1] + (a[i - 1] == b[j - 1] ? 0 : 1)});
      if (i > 1 && j > 1 && a[i - 1] == b[j - 2] && a[i - 2] == b[j - 1])
        best[i][j] = std::min(best[i][j], best[i - 2][j - 2] + 1);
    }
  return best[a.size()][b.size()];
}

}  // namespace

std::string_view nearestWord(std::string_view given, const std::vector<std::string_view>& words) {
  if (given.empty() || given.size() > 60) return {};
  const std::string small = lowerCase(given);
  std::string_view nearest;
  std::size_t least = std::max<std::size_t>(1, given.size() / 3) + 1;
  for (const std::string_view word : words) {
    const std::size_t steps = distance(small, lowerCase(word));
    if (steps < least) {
      least = steps;
      nearest = word;
    }
  }
  return nearest;
}

}  // namespace octaphon
