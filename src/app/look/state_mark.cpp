#include "app/look/state_mark.h"

#include <cmath>
#include <QPainterPath>
#include <QPolygonF>

#include "app/look/theme.h"

namespace octaphon::app {
namespace {

QPainterPath notched(const QRectF& box, double notch) {
  QPainterPath path(box.topLeft());
  path.lineTo(box.right() - notch, box.top());
  path.lineTo(box.right(), box.top() + notch);
  path.lineTo(box.bottomRight());
  path.lineTo(box.bottomLeft());
  path.closeSubpath();
  return path;
}

void hatch(QPainter& painter, const QRectF& box, double step) {
  painter.save();
  painter.setClipRect(box, Qt::IntersectClip);
  const double first = box.left() - box.height();
  for (int line = 0; first + line * step < box.right(); ++line) {
    const double x = first + line * step;
    painter.drawLine(QPointF(x, box.bottom()), QPointF(x + box.height(), box.top()));
  }
  painter.restore();
}

}  // namespace

QColor stateColour(RowState state) {
  switch (state) {
    case RowState::UpToDate:
    case RowState::OlderEngine: return colour(Role::Good);
    case RowState::ToMake:
    case RowState::HeldBack: return colour(Role::SecondInk);
    case RowState::Renamed:
    case RowState::Stale:
    case RowState::Changed:
    case RowState::Foreign: return colour(Role::Attention);
    case RowState::Fault: return colour(Role::Fault);
  }
  return colour(Role::Ink);
}

void drawStateMark(QPainter& painter, const QRectF& box, RowState state) {
  const QRectF mark(box.center().x() - 5.5, box.center().y() - 4.5, 11, 9);
  painter.save();
  painter.setRenderHint(QPainter::Antialiasing, false);
  const QColor ink = stateColour(state);
  painter.setPen(QPen(ink, 1));
  painter.setBrush(Qt::NoBrush);
  switch (state) {
    case RowState::ToMake: {
      QPen dashed(ink, 1);
      dashed.setDashPattern({2, 2});
      painter.setPen(dashed);
    }
      painter.drawRect(mark);
      break;
    case RowState::UpToDate:
      painter.setRenderHint(QPainter::Antialiasing);
      painter.fillPath(notched(mark, 4), ink);
      break;
    case RowState::OlderEngine:
      painter.setRenderHint(QPainter::Antialiasing);
      painter.drawPath(notched(mark, 4));
      break;
    case RowState::Renamed:
      painter.fillRect(QRectF(mark.left(), mark.bottom() - 2, mark.width(), 3), ink);
      painter.setRenderHint(QPainter::Antialiasing);
      painter.drawPath(notched(mark, 4));
      break;
    case RowState::HeldBack:
      painter.drawLine(QPointF(mark.left(), mark.center().y()), QPointF(mark.right(), mark.center().y()));
      break;
    case RowState::Stale:
      painter.drawRect(mark);
      hatch(painter, mark, 3);
      break;
    case RowState::Changed:
      painter.drawRect(mark);
      painter.fillRect(QRectF(mark.left(), mark.center().y(), mark.width(), mark.height() / 2), ink);
      break;
    case RowState::Foreign:
      painter.setRenderHint(QPainter::Antialiasing);
      painter.drawEllipse(mark.adjusted(1, 0, -1, 0));
      break;
    case RowState::Fault:
      painter.drawRect(mark);
      painter.fillRect(QRectF(mark.left(), mark.top(), 4, mark.height()), ink);
      break;
  }
  painter.restore();
}

void drawTile(QPainter& painter, const QRectF& box, RowState state) {
  const QColor ink = stateColour(state);
  painter.setBrush(Qt::NoBrush);
  switch (state) {
    case RowState::ToMake:
    case RowState::Foreign: {
      QPen dashed(ink, state == RowState::Foreign ? 1.6 : 1);
      dashed.setDashPattern(state == RowState::Foreign ? QVector<qreal>{1, 2} : QVector<qreal>{4, 3});
      painter.setPen(dashed);
      painter.drawRect(box);
      break;
    }
    case RowState::UpToDate:
    case RowState::OlderEngine:
    case RowState::Renamed: {
      QPen pen(ink, 1);
      if (state == RowState::OlderEngine) pen.setDashPattern({1.5, 2.5});
      painter.setPen(pen);
      painter.drawPath(notched(box, std::min(7.0, box.width() / 2)));
      if (state == RowState::Renamed)
        painter.fillRect(QRectF(box.left(), box.bottom() - 3, box.width(), 3), ink);
      break;
    }
    case RowState::HeldBack: {
      QColor soft = ink;
      soft.setAlpha(90);
      painter.setPen(QPen(soft, 1));
      painter.drawRect(box);
      painter.setPen(QPen(ink, 1));
      const double middle = std::round(box.center().y()) + 0.5;
      painter.drawLine(QPointF(box.left(), middle), QPointF(box.right(), middle));
      break;
    }
    case RowState::Stale:
    case RowState::Changed: {
      QColor soft = ink;
      soft.setAlpha(90);
      painter.setPen(QPen(soft, 1));
      hatch(painter, box, 7);
      painter.setPen(QPen(ink, state == RowState::Changed ? 2 : 1));
      painter.drawRect(box);
      break;
    }
    case RowState::Fault:
      painter.setPen(QPen(ink, 1));
      painter.drawRect(box);
      painter.fillRect(QRectF(box.left(), box.top(), std::min(5.0, box.width()), box.height()), ink);
      break;
  }
}

void drawTileEnds(QPainter& painter, const QRectF& whole, const QRectF& body, bool isOpen, RowState state) {
  constexpr double kLeast = 2.5, kOpen = 26;
  QPen pen(stateColour(state), 1);
  if (state == RowState::ToMake) pen.setDashPattern({4, 3});
  painter.save();
  painter.setBrush(Qt::NoBrush);
  painter.setPen(pen);
  if (body.left() - whole.left() >= kLeast) {
    const double step = std::round(body.center().y()) + 0.5;
    painter.drawPolyline(QPolygonF({{body.left(), body.bottom()},
                                    {whole.left(), body.bottom()},
                                    {whole.left(), step},
                                    {body.left(), step}}));
  }
  painter.setRenderHint(QPainter::Antialiasing);
  const QPointF high(body.right(), body.top() + body.height() / 3);
  if (isOpen) {
    pen.setDashPattern({1.5, 3});
    painter.setPen(pen);
    painter.drawLine(high, QPointF(body.right() + kOpen, body.top() + body.height() * 2 / 3));
    painter.drawLine(body.bottomRight(), body.bottomRight() + QPointF(kOpen, 0));
  } else if (whole.right() - body.right() >= kLeast) {
    painter.drawPolyline(QPolygonF({high, {whole.right(), body.bottom()}, body.bottomRight()}));
  }
  painter.restore();
}

void drawOwnMark(QPainter& painter, const QRectF& box) {
  painter.save();
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setPen(Qt::NoPen);
  painter.setBrush(colour(Role::Accent));
  const double size = std::min(7.0, box.width() / 2);
  painter.drawPolygon(
      QPolygonF{{box.topLeft(), box.topLeft() + QPointF(size, 0), box.topLeft() + QPointF(0, size)}});
  painter.restore();
}

}  // namespace octaphon::app
