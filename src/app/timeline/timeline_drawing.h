// Small things that all parts of the timeline draw with.
#pragma once

#include <QColor>
#include <QPainter>
#include <QPolygonF>

#include "app/look/theme.h"

namespace octaphon::app {

inline QColor faded(QColor base, int alpha) {
  base.setAlpha(alpha);
  return base;
}

/// A turned corner: this thing has notes.
inline void drawNoteCorner(QPainter& painter, const QRectF& box) {
  if (box.width() < 8) return;
  painter.setPen(Qt::NoPen);
  painter.setBrush(colour(Role::Attention));
  painter.drawPolygon(
      QPolygonF({box.topRight(), box.topRight() - QPointF(6, 0), box.topRight() + QPointF(0, 6)}));
  painter.setBrush(Qt::NoBrush);
}

}  // namespace octaphon::app
