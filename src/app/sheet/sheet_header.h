// The heads of the sheet's columns. Which columns are selected as a whole is not asked: of hundreds of
// thousands of rows that takes long, and rows are selected, not columns.
#pragma once

#include <QHeaderView>

namespace octaphon::app {

class SheetHeader : public QHeaderView {
  Q_OBJECT
 public:
  explicit SheetHeader(QWidget* parent) : QHeaderView(Qt::Horizontal, parent) {}

 protected:
  void initStyleOptionForIndex(QStyleOptionHeader* option, int section) const override;
};

}  // namespace octaphon::app
