// A value over session time, as a stage needs it: constant, or a curve held outside a window. All of it is a
// function of the session frame alone, so that it does not matter where a block or a pass begins.
#pragma once

#include "session/inserts.h"

namespace octaphon {

/// Curves are held at their values at these frames and outside them.
struct CurveWindow {
  Frame from = 0;
  Frame to = kMaxFrame;
};

class ValueCurve {
 public:
  ValueCurve() = default;
  explicit ValueCurve(double constant) : constant_(constant) {}
  /// `curve` may be null, then the value is `constant`; it must outlive this. A jump behind a held segment is
  /// spread over `smoothing` frames, from the jump on. Values are cut to [least, most].
  ValueCurve(double constant, const Automation* curve, CurveWindow window, Frame smoothing = 0,
             double least = -1e9, double most = 1e9);

  bool isConstant() const { return curve_ == nullptr; }
  double at(Frame frame) const;
  /// The values of frames [from, from + count).
  void fill(Frame from, Frame count, double* out) const;

 private:
  double smoothed(double value, Frame frame) const;

  double constant_ = 0;
  const Automation* curve_ = nullptr;
  CurveWindow window_;
  Frame smoothing_ = 0;
  double least_ = -1e9, most_ = 1e9;
};

}  // namespace octaphon
