#include "session/inserts.h"

#include <algorithm>
#include <cmath>

namespace octaphon {

double valueAt(const Automation& curve, Frame frame) {
  const auto& points = curve.points;
  const auto next = std::upper_bound(points.begin(), points.end(), frame,
                                     [](Frame at, const CurvePoint& point) { return at < point.at; });
  if (next == points.begin()) return points.front().value;
  const CurvePoint& from = *(next - 1);
  if (next == points.end() || from.segment == Segment::Hold) return from.value;
  double t = static_cast<double>(frame - from.at) / static_cast<double>(next->at - from.at);
  if (from.segment == Segment::Curve) t = std::pow(t, std::pow(4.0, from.bend));
  return from.value + (next->value - from.value) * t;
}

}  // namespace octaphon
