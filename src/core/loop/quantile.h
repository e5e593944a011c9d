// Quantiles of a few values.
#pragma once

#include <algorithm>
#include <cmath>
#include <vector>

namespace octaphon {

/// The value under which a share (0 … 1) of all lies, between two of them where it falls there (R. J.
/// Hyndman, Y. Fan, "Sample Quantiles in Statistical Packages", 1996, definition 7); `otherwise` of no
/// values.
inline double quantile(std::vector<double> values, double share, double otherwise = 0) {
  if (values.empty()) return otherwise;
  std::sort(values.begin(), values.end());
  const double place = share * static_cast<double>(values.size() - 1);
  const auto below = static_cast<std::size_t>(place);
  const std::size_t above = std::min(below + 1, values.size() - 1);
  return values[below] + (place - std::floor(place)) * (values[above] - values[below]);
}

}  // namespace octaphon
