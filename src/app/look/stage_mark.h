// How far a row is while files are made, by form first and colour second: beside the marks of its state.
#pragma once

#include <QPainter>

#include "run/row_stages.h"

namespace octaphon::app {

QColor stageColour(RowStage stage);

/// A small mark, about 12 × 9 px, centred in `box`; nothing for RowStage::None.
void drawStageMark(QPainter& painter, const QRectF& box, RowStage stage);

/// A tile on the timeline: its body, in full height.
void drawStageTile(QPainter& painter, const QRectF& box, RowStage stage);

/// Of items that have a mark: RowStage as int; absent where nothing is made of them.
inline constexpr int kStageRole = Qt::UserRole + 40;

/// The stage that tells most of several: what failed, what is worked on, what waits, what is done.
RowStage moreTelling(RowStage a, RowStage b);

}  // namespace octaphon::app
