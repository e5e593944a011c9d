// A tree whose leaves are ticked, by mouse or Return; folders tick what is in them. However many are ticked
// at once, it is told once.
#pragma once

#include <QKeyEvent>
#include <QTimer>
#include <QTreeWidget>

namespace octaphon::app {

class TickTree : public QTreeWidget {
  Q_OBJECT
 public:
  explicit TickTree(const QString& name, QWidget* parent);

  /// A line that can be ticked, below `parent`.
  static QTreeWidgetItem* addLeaf(QTreeWidgetItem* parent, const QString& words);
  /// One that ticks what is below it.
  static QTreeWidgetItem* addFolder(QTreeWidgetItem* parent, const QString& words);
  static bool isTicked(const QTreeWidgetItem* item) { return item->checkState(0) == Qt::Checked; }
  static void setTicked(QTreeWidgetItem* item, bool on) {
    if (isTicked(item) != on) item->setCheckState(0, on ? Qt::Checked : Qt::Unchecked);
  }

 signals:
  void ticked();

 protected:
  void keyPressEvent(QKeyEvent* event) override;

 private:
  QTimer told_;
};

}  // namespace octaphon::app
