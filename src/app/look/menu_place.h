// Where a context menu opens that was asked for with the keyboard: at what is current, not in the middle.
#pragma once

#include <algorithm>
#include <QAbstractItemView>
#include <QContextMenuEvent>

namespace octaphon::app {

/// On the screen.
inline QPoint menuPlace(const QContextMenuEvent& event, const QAbstractItemView& view) {
  const QRect current = view.visualRect(view.currentIndex());
  if (event.reason() != QContextMenuEvent::Keyboard || !current.isValid()) return event.globalPos();
  const QRect seen = current & view.viewport()->rect();
  return view.viewport()->mapToGlobal(
      QPoint(seen.left() + std::min(24, seen.width() / 2), seen.center().y()));
}

}  // namespace octaphon::app
