// The curve that is shown on a lane of the timeline, and what the mouse does with it: a click on the line
// adds a point, a drag moves one, Alt+click takes it out. Every drag is one step of undo.
#pragma once

#include <optional>
#include <QMouseEvent>
#include <QPainter>

#include "app/work/document.h"

namespace octaphon::app {

class TimelineView;

class CurveGestures {
 public:
  CurveGestures(TimelineView& view, Document& document) : view_(view), document_(document) {}

  /// Empty texts: none is shown.
  void show(std::string place, std::string target);
  bool isShown() const { return !target_.empty(); }
  const std::string& place() const { return place_; }

  void paint(QPainter& painter) const;
  /// Whether it was for the curve.
  bool press(const QMouseEvent& event);
  bool move(const QMouseEvent& event);
  bool release();

  /// Where a value lies on the shown lane, in the viewport; for tests too.
  QPointF pointAt(Frame frame, double value) const;

 private:
  QRectF lane() const;
  double valueAtY(double y) const;
  std::optional<Frame> pointUnder(const QPoint& at) const;
  double valueNow() const;

  TimelineView& view_;
  Document& document_;
  std::string place_, target_;
  double least_ = -60, most_ = 12;
  std::optional<CurvePoint> dragged_;  // as it would be dropped
  Frame from_ = 0;
};

}  // namespace octaphon::app
