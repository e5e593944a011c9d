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

/// Without what is left of the jumps of the last moment.
double ValueCurve::smoothed(double value, Frame frame) const {
  const auto& points = curve_->points;
  auto next = std::upper_bound(points.begin(), points.end(), frame,
                               [](Frame at, const CurvePoint& point) { return at < point.at; });
  for (; next - points.begin() >= 2 && (next - 1)->at > frame - smoothing_; --next) {
    const CurvePoint& jump = *(next - 1);
    const CurvePoint& before = *(next - 2);
    if (before.segment != Segment::Hold) continue;
    const double left = 1 - static_cast<double>(frame - jump.at + 1) / static_cast<double>(smoothing_);
    value -= (jump.value - before.value) * std::max(0.0, left);
  }
  return value;
}

double ValueCurve::at(Frame frame) const {
  double value;
  fill(frame, 1, &value);
  return value;
}

void ValueCurve::fill(Frame from, Frame count, double* out) const {
  if (curve_ == nullptr) {
    std::fill_n(out, count, constant_);
    return;
  }
  for (Frame done = 0; done < count;) {
    const Frame first = std::clamp(from + done, window_.from, window_.to);
    const CurvePiece piece(*curve_, first);
    const Frame calm =
        piece.point() == nullptr || smoothing_ == 0 ? -kMaxFrame : piece.point()->at + smoothing_;
    do {
      const Frame frame = std::clamp(from + done, window_.from, window_.to);
      const double value = frame < calm ? smoothed(piece.at(frame), frame) : piece.at(frame);
      out[done++] = std::clamp(value, least_, most_);
    } while (done < count && std::clamp(from + done, window_.from, window_.to) < piece.end());
  }
}

}  // namespace octaphon
