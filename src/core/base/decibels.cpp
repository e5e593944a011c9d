#include "base/decibels.h"

#include <algorithm>
#include <cmath>
#include <cstdio>

namespace octaphon {

double gainOf(double decibels) {
  if (decibels <= kSilenceDb) return 0.0;
  return std::pow(10.0, decibels / 20.0);
}

double decibelsOf(double factor) {
  if (factor <= 0.0) return kSilenceDb;
  return std::max(kSilenceDb, 20.0 * std::log10(factor));
}

std::string decibelText(double decibels) {
  if (decibels <= kSilenceDb) return "−∞";
  const double rounded = std::round(decibels * 10.0) / 10.0;
  char digits[32];
  std::snprintf(digits, sizeof digits, "%.1f", std::abs(rounded));
  return (rounded < 0 ? "−" : "") + std::string(digits);
}

}  // namespace octaphon
