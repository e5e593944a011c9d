#include "flow_layout.h"

#include <QWidget>

namespace octaphon::app {

FlowLayout::FlowLayout(QWidget* parent, int spacing, int lineSpacing)
    : QLayout(parent), spacing_(spacing), lineSpacing_(lineSpacing) {
  setContentsMargins(0, 0, 0, 0);
}

FlowLayout::~FlowLayout() {
  while (QLayoutItem* item = FlowLayout::takeAt(0)) delete item;
}

QLayoutItem* FlowLayout::takeAt(int index) {
  return index >= 0 && index < items_.size() ? items_.takeAt(index) : nullptr;
}

QSize FlowLayout::minimumSize() const {
  QSize size;
  for (const QLayoutItem* item : items_) size = size.expandedTo(item->minimumSize());
  return size;
}

void FlowLayout::setGeometry(const QRect& rect) {
  QLayout::setGeometry(rect);
  arrange(rect, true);
}

int FlowLayout::arrange(const QRect& rect, bool apply) const {
  int x = rect.left();
  int y = rect.top();
  int lineHeight = 0;
  for (QLayoutItem* item : items_) {
    if (item->widget() != nullptr && item->widget()->isHidden()) continue;
    const bool wide = item->expandingDirections() & Qt::Horizontal;
    QSize size = item->sizeHint();
    size.setWidth(wide ? rect.width() : std::min(size.width(), rect.width()));
    // A mark such as a comma stays with the word before it.
    const bool tight = item->widget() != nullptr && item->widget()->property("tight").toBool();
    if (tight && x > rect.left()) x -= spacing_;
    if (!tight && x > rect.left() && x + size.width() > rect.right() + 1) {
      x = rect.left();
      y += lineHeight + lineSpacing_;
      lineHeight = 0;
    }
    if (apply) item->setGeometry(QRect(QPoint(x, y), size));
    x += size.width() + spacing_;
    lineHeight = std::max(lineHeight, size.height());
  }
  return y + lineHeight - rect.top();
}

}  // namespace octaphon::app
