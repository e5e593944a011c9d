#include "app/look/stage_mark.h"

#include <cmath>
#include <QPolygonF>

#include "app/look/state_mark.h"
#include "app/look/theme.h"

namespace octaphon::app {
namespace {

int weight(RowStage stage) {
  switch (stage) {
    case RowStage::None: return 0;
    case RowStage::Done: return 1;
    case RowStage::Waiting: return 2;
    case RowStage::Writing: return 3;
    case RowStage::Measuring: return 4;
    case RowStage::Playing: return 5;
    case RowStage::Failed: return 6;
  }
  return 0;
}

bool isWorkedOn(RowStage stage) {
  return stage == RowStage::Playing || stage == RowStage::Measuring || stage == RowStage::Writing;
}

}  // namespace

QColor stageColour(RowStage stage) {
  switch (stage) {
    case RowStage::Waiting: return colour(Role::SecondInk);
    case RowStage::Done: return colour(Role::Good);
    case RowStage::Failed: return colour(Role::Fault);
    default: return colour(Role::Accent);
  }
}

RowStage moreTelling(RowStage a, RowStage b) { return weight(a) >= weight(b) ? a : b; }

void drawStageMark(QPainter& painter, const QRectF& box, RowStage stage) {
  const QRectF mark(box.center().x() - 5.5, box.center().y() - 4.5, 11, 9);
  if (stage == RowStage::Done) return drawStateMark(painter, box, RowState::UpToDate);
  const QColor ink = stageColour(stage);
  painter.save();
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setPen(Qt::NoPen);
  painter.setBrush(ink);
  switch (stage) {
    case RowStage::Waiting:
      for (int dot = 0; dot < 3; ++dot)
        painter.drawEllipse(QPointF(mark.left() + 1.5 + dot * 4, mark.center().y()), 1.3, 1.3);
      break;
    case RowStage::Playing:
      painter.drawPolygon(QPolygonF{{mark.left() + 2, mark.top()},
                                    {mark.right(), mark.center().y()},
                                    {mark.left() + 2, mark.bottom()}});
      break;
    case RowStage::Measuring:
      for (int bar = 0; bar < 4; ++bar) {
        constexpr double kHeights[] = {4, 9, 6, 3};
        painter.drawRect(QRectF(mark.left() + bar * 3, mark.bottom() - kHeights[bar], 2, kHeights[bar]));
      }
      break;
    case RowStage::Writing:
      painter.drawPolygon(QPolygonF{{mark.left() + 1.5, mark.top() + 1},
                                    {mark.right() - 1.5, mark.top() + 1},
                                    {mark.center().x(), mark.bottom() - 3}});
      painter.drawRect(QRectF(mark.left(), mark.bottom() - 1.5, mark.width(), 1.5));
      break;
    case RowStage::Failed:
      painter.setPen(QPen(ink, 2));
      painter.drawLine(mark.topLeft() + QPointF(1.5, 0), mark.bottomRight() - QPointF(1.5, 0));
      painter.drawLine(mark.topRight() - QPointF(1.5, 0), mark.bottomLeft() + QPointF(1.5, 0));
      break;
    case RowStage::None:
    case RowStage::Done: break;
  }
  painter.restore();
}

void drawStageTile(QPainter& painter, const QRectF& box, RowStage stage) {
  constexpr double kRoom = 18;  // px that the mark takes
  if (isWorkedOn(stage)) {
    QColor soft = colour(Role::Accent);
    soft.setAlpha(60);
    painter.fillRect(box, soft);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(colour(Role::Accent), 1));
    painter.drawRect(box);
  } else {
    drawTile(painter, box,
             stage == RowStage::Done     ? RowState::UpToDate
             : stage == RowStage::Failed ? RowState::Fault
                                         : RowState::ToMake);
  }
  if (stage != RowStage::Done && box.width() > kRoom)
    drawStageMark(painter, QRectF(box.left() + 2, box.top(), kRoom - 4, box.height()), stage);
}

}  // namespace octaphon::app
