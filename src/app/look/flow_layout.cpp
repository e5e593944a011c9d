#include "app/look/flow_layout.h"

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
  for (const QLayoutItem* item : items_)
    if (item->widget() == nullptr || !item->widget()->isHidden()) size = size.expandedTo(item->minimumSize());
  return size;
}

/// Some lines of a usual width: the narrowest possible would be as tall as a tower.
QSize FlowLayout::sizeHint() const {
  constexpr int kUsualWidth = 300;
  const int width = std::max(kUsualWidth, minimumSize().width());
  return {width, heightForWidth(width)};
}

void FlowLayout::setGeometry(const QRect& rect) {
  QLayout::setGeometry(rect);
  arrange(rect, true);
}

/// Places items one after the other.
class FlowLayout::Lines {
 public:
  Lines(const FlowLayout& layout, const QRect& rect, bool apply)
      : layout_(layout), rect_(rect), apply_(apply), x_(rect.left()), y_(rect.top()) {}

  void add(QLayoutItem* item) {
    if (flag(item, "below")) {
      below_ << item;
      return;
    }
    QSize size = item->sizeHint();
    const bool isWide = (item->expandingDirections() & Qt::Horizontal) || size.width() > rect_.width();
    const bool isTight = flag(item, "tight");
    if (isWide) size.setWidth(rect_.width());
    if (isWide && item->hasHeightForWidth()) size.setHeight(item->heightForWidth(rect_.width()));
    if (isTight && x_ > rect_.left()) x_ -= layout_.spacing_;
    if (!isTight && x_ > rect_.left() && x_ + size.width() > rect_.right() + 1) endLine();
    place(item, QRect(QPoint(x_, y_), size));
    x_ += size.width() + layout_.spacing_;
    lineHeight_ = std::max(lineHeight_, size.height());
  }

  int height() {
    if (!below_.isEmpty()) endLine();
    return y_ + lineHeight_ - rect_.top() - (lineHeight_ == 0 && y_ > rect_.top() ? layout_.lineSpacing_ : 0);
  }

 private:
  static bool flag(QLayoutItem* item, const char* name) {
    return item->widget() != nullptr && item->widget()->property(name).toBool();
  }
  void place(QLayoutItem* item, const QRect& where) const {
    if (apply_) item->setGeometry(where);
  }
  void endLine() {
    x_ = rect_.left();
    y_ += lineHeight_ + layout_.lineSpacing_;
    lineHeight_ = 0;
    for (QLayoutItem* item : std::exchange(below_, {})) {
      const int height =
          item->hasHeightForWidth() ? item->heightForWidth(rect_.width()) : item->sizeHint().height();
      place(item, QRect(rect_.left(), y_, rect_.width(), height));
      y_ += height + layout_.lineSpacing_;
    }
  }

  const FlowLayout& layout_;
  QRect rect_;
  bool apply_;
  int x_, y_;
  int lineHeight_ = 0;
  QList<QLayoutItem*> below_;  // what stands below this line
};

int FlowLayout::arrange(const QRect& rect, bool apply) const {
  Lines lines(*this, rect, apply);
  for (QLayoutItem* item : items_)
    if (item->widget() == nullptr || !item->widget()->isHidden()) lines.add(item);
  return lines.height();
}

}  // namespace octaphon::app
