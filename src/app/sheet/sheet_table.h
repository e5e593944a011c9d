// The table of the sheet: headings go over its whole width, and open and close.
#pragma once

#include <QTableView>

#include "app/sheet/sheet_model.h"

namespace octaphon::app {

class SheetTable : public QTableView {
  Q_OBJECT
 public:
  SheetTable(SheetModel& model, QWidget* parent);

  /// Lines that can be seen; the last before the first where there are none.
  std::pair<int, int> linesOnView() const;

 signals:
  void menuWanted(const QPoint& at);  ///< on the screen
  void dragWanted();                  ///< of the files of the rows that are selected

 protected:
  void paintEvent(QPaintEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void contextMenuEvent(QContextMenuEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void startDrag(Qt::DropActions) override { emit dragWanted(); }

 private:
  void paintHeading(QPainter& painter, int line) const;
  bool toggle(int line);

  SheetModel& model_;
};

}  // namespace octaphon::app
