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
  const double place = share * static_cast<double>(values.size() - 1);
  const auto below = values.begin() + static_cast<std::ptrdiff_t>(place);
  std::nth_element(values.begin(), below, values.end());
  const auto above = std::min_element(below + 1, values.end());
  return above == values.end() ? *below : *below + (place - std::floor(place)) * (*above - *below);
}

}  // namespace octaphon
