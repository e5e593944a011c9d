// Widgets in lines, like words of a paragraph. Properties of a widget: `tight` stays with what is before it,
// as a comma does; `below` gets the whole width below the line of what is before it.
#pragma once

#include <QLayout>
#include <QList>

namespace octaphon::app {

class FlowLayout : public QLayout {
 public:
  explicit FlowLayout(QWidget* parent, int spacing = 4, int lineSpacing = 5);
  ~FlowLayout() override;

  void addItem(QLayoutItem* item) override { items_.append(item); }
  int count() const override { return static_cast<int>(items_.size()); }
  QLayoutItem* itemAt(int index) const override { return items_.value(index); }
  QLayoutItem* takeAt(int index) override;
  Qt::Orientations expandingDirections() const override { return {}; }
  bool hasHeightForWidth() const override { return true; }
  int heightForWidth(int width) const override { return arrange(QRect(0, 0, width, 0), false); }
  QSize sizeHint() const override;
  QSize minimumSize() const override;
  void setGeometry(const QRect& rect) override;

 private:
  class Lines;
  int arrange(const QRect& rect, bool apply) const;
  QList<QLayoutItem*> items_;
  int spacing_;
  int lineSpacing_;
};

}  // namespace octaphon::app
