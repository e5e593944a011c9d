#include "session/inserts.h"

#include <algorithm>
#include <cmath>

namespace octaphon {

CurvePiece::CurvePiece(const Automation& curve, Frame frame) {
  const CurvePoint* const first = curve.points.data();
  const CurvePoint* const end = first + curve.points.size();
  const CurvePoint* const next =
      std::upper_bound(first, end, frame, [](Frame at, const CurvePoint& point) { return at < point.at; });
  from_ = next == first ? nullptr : next - 1;
  next_ = next == end ? nullptr : next;
  if (from_ != nullptr && from_->segment == Segment::Curve) power_ = std::pow(4.0, from_->bend);
}

double CurvePiece::at(Frame frame) const {
  if (from_ == nullptr) return next_->value;
  if (next_ == nullptr || from_->segment == Segment::Hold) return from_->value;
  double t = static_cast<double>(frame - from_->at) / static_cast<double>(next_->at - from_->at);
  if (from_->segment == Segment::Curve) t = std::pow(t, power_);
  return from_->value + (next_->value - from_->value) * t;
}

}  // namespace octaphon
