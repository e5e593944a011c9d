// How a row's state looks, by form first and colour second: the same marks in outline, sheet and timeline.
#pragma once

#include <QPainter>

#include "plan/sheet.h"

namespace octaphon::app {

/// A small mark, about 12 × 9 px, centred in `box`.
void drawStateMark(QPainter& painter, const QRectF& box, RowState state);

/// The outline of a tile on the timeline: its body, in full height.
void drawTile(QPainter& painter, const QRectF& box, RowState state);

/// Beside the body of a tile, `whole` holding all: a lead-in as a low step before it, a tail as a slope
/// behind it. A tail whose length is not known is left open.
void drawTileEnds(QPainter& painter, const QRectF& whole, const QRectF& body, bool isOpen, RowState state);

QColor stateColour(RowState state);

/// Of items that have a mark: RowState as int; absent where there are no rows.
inline constexpr int kStateRole = Qt::UserRole + 2;

/// At a tile's upper left corner: its row has something of its own.
void drawOwnMark(QPainter& painter, const QRectF& box);

}  // namespace octaphon::app
