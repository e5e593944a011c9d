#include "app/brief/tick_tree.h"

namespace octaphon::app {

TickTree::TickTree(const QString& name, QWidget* parent) : QTreeWidget(parent) {
  setAccessibleName(name);
  setHeaderHidden(true);
  setIndentation(16);
  setMinimumSize(160, 220);
  setUniformRowHeights(true);
  setEditTriggers(NoEditTriggers);
  told_.setSingleShot(true);
  told_.setInterval(0);
  connect(&told_, &QTimer::timeout, this, &TickTree::ticked);
  connect(this, &QTreeWidget::itemChanged, this, [this] { told_.start(); });
}

QTreeWidgetItem* TickTree::addLeaf(QTreeWidgetItem* parent, const QString& words) {
  auto* item = new QTreeWidgetItem(parent, {words});
  item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
  item->setCheckState(0, Qt::Unchecked);
  item->setToolTip(0, words);
  return item;
}

QTreeWidgetItem* TickTree::addFolder(QTreeWidgetItem* parent, const QString& words) {
  auto* item = addLeaf(parent, words);
  item->setFlags(item->flags() | Qt::ItemIsAutoTristate);
  return item;
}

void TickTree::keyPressEvent(QKeyEvent* event) {
  const bool isReturn = event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter;
  QTreeWidgetItem* item = currentItem();
  if (!isReturn || item == nullptr || !(item->flags() & Qt::ItemIsUserCheckable) ||
      !(item->flags() & Qt::ItemIsEnabled))
    return QTreeWidget::keyPressEvent(event);
  setTicked(item, !isTicked(item));
}

}  // namespace octaphon::app
