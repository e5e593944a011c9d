#include "loop/blend.h"

namespace octaphon {

double correlationOf(const Lap& a, const Lap& b) {
  double common = 0, ofA = 0, ofB = 0;
  for (std::size_t c = 0; c < a.channels.size(); ++c)
    for (std::size_t i = 0; i < a.channels[c].size(); ++i) {
      const double x = static_cast<double>(a.channels[c][i]), y = static_cast<double>(b.channels[c][i]);
      common += x * y;
      ofA += x * x;
      ofB += y * y;
    }
  return ofA > 0 && ofB > 0 ? common / std::sqrt(ofA * ofB) : (ofA == ofB ? 1 : 0);
}

}  // namespace octaphon
