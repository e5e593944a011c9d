#include "app/timeline/curve_gestures.h"

#include <algorithm>
#include <cmath>

#include "app/look/theme.h"
#include "app/timeline/timeline_view.h"
#include "app/work/text.h"
#include "edit/inserts.h"
#include "routing/effect_info.h"

namespace octaphon::app {
namespace {

constexpr double kPointReach = 6;  // px

struct Range {
  double least, most;
};

/// What a lane shows of a value. Levels are drawn from −60 dB on: below that nothing is told apart.
Range rangeOf(const Session& session, const std::string& target) {
  if (target == "pan") return {-1, 1};
  if (target == "mute") return {0, 1};
  if (target == "gain" || target.starts_with("send:")) return {-60, 12};
  const std::size_t colon = target.rfind(':');
  const std::string id = target.substr(7, colon - 7);
  if (const Insert* insert = findInsert(session, id))
    if (const EffectInfo* info = builtInEffect(insert->effect))
      if (const int p = info->find(target.substr(colon + 1)); p >= 0)
        return {info->parameters[static_cast<std::size_t>(p)].least,
                info->parameters[static_cast<std::size_t>(p)].most};
  return {0, 1};
}

}  // namespace

void CurveGestures::show(std::string place, std::string target) {
  place_ = std::move(place);
  target_ = std::move(target);
  dragged_.reset();
  if (!target_.empty()) {
    const Range range = rangeOf(*document_.session(), target_);
    least_ = range.least;
    most_ = range.most;
    if (const Automation* curve = findCurve(*document_.session(), place_, target_))
      for (const CurvePoint& point : curve->points) {  // whatever is there is seen
        if (target_.starts_with("insert:"))
          least_ = std::min(least_, point.value), most_ = std::max(most_, point.value);
      }
  }
  view_.redrawMarks();
}

QRectF CurveGestures::lane() const {
  const auto track = place_ == kMainPlace ? Strip::main() : view_.model().tree().find(place_);
  const QRect head = track ? view_.headOf(*track) : QRect();  // it may have gone
  return head.isNull() ? QRectF()
                       : QRectF(head.right() + 1, head.top() + 3, view_.viewport()->width() - head.right(),
                                head.height() - 7);
}

QPointF CurveGestures::pointAt(Frame frame, double value) const {
  const QRectF box = lane();
  const double t = (std::clamp(value, least_, most_) - least_) / (most_ - least_);
  return {view_.xOf(frame), box.bottom() - t * box.height()};
}

double CurveGestures::valueAtY(double y) const {
  const QRectF box = lane();
  const double value = least_ + std::clamp((box.bottom() - y) / box.height(), 0.0, 1.0) * (most_ - least_);
  const double step = most_ - least_ > 10 ? 0.1 : 0.01;
  return std::round(value / step) * step;
}

double CurveGestures::valueNow() const {
  if (const Track* track = findTrack(*document_.session(), place_))
    return target_ == "gain" ? track->gainDb : target_ == "pan" ? track->pan : 0;
  return target_ == "gain" ? document_.session()->main.gainDb : 0;
}

void CurveGestures::paint(QPainter& painter) const {
  const QRectF box = lane();
  if (!isShown() || box.isNull()) return;
  Automation shown{target_, true, {}, {}};
  if (const Automation* curve = findCurve(*document_.session(), place_, target_)) shown = *curve;
  if (dragged_) {
    std::erase_if(shown.points, [&](const CurvePoint& p) { return p.at == from_ || p.at == dragged_->at; });
    shown.points.insert(std::lower_bound(shown.points.begin(), shown.points.end(), dragged_->at,
                                         [](const CurvePoint& p, Frame at) { return p.at < at; }),
                        *dragged_);
  }
  painter.save();
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setClipRect(box.adjusted(0, -3, 0, 3));
  painter.setPen(QPen(colour(Role::Accent), shown.points.empty() ? 1 : 1.5,
                      shown.points.empty() ? Qt::DashLine : Qt::SolidLine));
  const auto valueOf = [&](Frame frame) { return shown.points.empty() ? valueNow() : valueAt(shown, frame); };
  QPolygonF line;
  for (int step = 0; box.left() + 2 * step <= box.right(); ++step) {
    const double x = box.left() + 2 * step;
    line << pointAt(view_.frameAt(x), valueOf(view_.frameAt(x)));
  }
  painter.drawPolyline(line);
  painter.setBrush(colour(Role::Sheet));
  for (const CurvePoint& point : shown.points)
    painter.drawRect(QRectF(pointAt(point.at, point.value), QSizeF(0, 0)).adjusted(-3, -3, 3, 3));
  if (dragged_) {
    painter.setFont(Theme::caption());
    painter.setPen(colour(Role::Ink));
    const QPointF at = pointAt(dragged_->at, dragged_->value);
    painter.drawText(at + QPointF(8, at.y() < box.center().y() ? 12 : -4),
                     QString::number(dragged_->value, 'f', 2));
  }
  painter.restore();
}

std::optional<Frame> CurveGestures::pointUnder(const QPoint& at) const {
  const Automation* curve = findCurve(*document_.session(), place_, target_);
  if (curve == nullptr) return std::nullopt;
  for (const CurvePoint& point : curve->points) {
    const QPointF there = pointAt(point.at, point.value);
    if (std::abs(there.x() - at.x()) <= kPointReach && std::abs(there.y() - at.y()) <= kPointReach)
      return point.at;
  }
  return std::nullopt;
}

bool CurveGestures::press(const QMouseEvent& event) {
  if (!isShown() || !lane().contains(event.pos())) return false;
  const auto under = pointUnder(event.pos());
  if ((event.modifiers() & Qt::AltModifier) != 0) {
    if (under)
      document_.edit(QObject::tr("Take a point out"),
                     [&](Session& session) { removeCurvePoint(session, place_, target_, *under); });
    return under.has_value();
  }
  const Frame frame = view_.frameAt(event.pos().x());
  const Automation* curve = findCurve(*document_.session(), place_, target_);
  if (!under) {
    const double now = curve == nullptr ? valueNow() : valueAt(*curve, frame);
    if (std::abs(pointAt(frame, now).y() - event.pos().y()) > kPointReach) return false;  // the clips beneath
    dragged_ = CurvePoint{frame, valueAtY(event.pos().y()), Segment::Linear, 0, {}};
    from_ = -1;
  } else {
    for (const CurvePoint& point : curve->points)
      if (point.at == *under) dragged_ = point;
    from_ = *under;
  }
  view_.redrawMarks();
  return true;
}

bool CurveGestures::move(const QMouseEvent& event) {
  if (!dragged_) return false;
  dragged_->at = view_.frameAt(event.pos().x());
  dragged_->value = valueAtY(event.pos().y());
  view_.redrawMarks();
  return true;
}

bool CurveGestures::release() {
  if (!dragged_) return false;
  const CurvePoint point = *dragged_;
  dragged_.reset();
  document_.edit(from_ < 0 ? QObject::tr("Add a point") : QObject::tr("Move a point"), [&](Session& session) {
    if (from_ >= 0 && from_ != point.at) removeCurvePoint(session, place_, target_, from_);
    setCurvePoint(session, place_, target_, point);
  });
  view_.redrawMarks();
  return true;
}

}  // namespace octaphon::app
