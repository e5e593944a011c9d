#include "signal/curve.h"

#include <algorithm>

namespace octaphon {

ValueCurve::ValueCurve(double constant, const Automation* curve, CurveWindow window, Frame smoothing,
                       double least, double most)
    : constant_(constant),
      curve_(curve),
      window_(window),
      smoothing_(smoothing),
      least_(least),
      most_(most) {}

double ValueCurve::at(Frame frame) const {
  if (curve_ == nullptr) return constant_;
  frame = std::clamp(frame, window_.from, window_.to);
  double value = valueAt(*curve_, frame);
  if (smoothing_ > 0) {
    const auto& points = curve_->points;
    auto next = std::upper_bound(points.begin(), points.end(), frame,
                                 [](Frame at, const CurvePoint& point) { return at < point.at; });
    // What is left of the jumps of the last moment.
    for (; next - points.begin() >= 2 && (next - 1)->at > frame - smoothing_; --next) {
      const CurvePoint& jump = *(next - 1);
      const CurvePoint& before = *(next - 2);
      if (before.segment != Segment::Hold) continue;
      const double left = 1 - static_cast<double>(frame - jump.at + 1) / static_cast<double>(smoothing_);
      value -= (jump.value - before.value) * std::max(0.0, left);
    }
  }
  return std::clamp(value, least_, most_);
}

void ValueCurve::fill(Frame from, Frame count, double* out) const {
  if (curve_ == nullptr) {
    std::fill_n(out, count, constant_);
    return;
  }
  for (Frame i = 0; i < count; ++i) out[i] = at(from + i);
}

}  // namespace octaphon
