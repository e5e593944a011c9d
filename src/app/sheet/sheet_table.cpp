#include "app/sheet/sheet_table.h"

#include <algorithm>
#include <QHeaderView>
#include <QKeyEvent>
#include <QLineEdit>
#include <QMouseEvent>
#include <QPainter>
#include <QStyledItemDelegate>

#include "app/look/menu_place.h"
#include "app/look/stage_mark.h"
#include "app/look/state_mark.h"
#include "app/look/theme.h"
#include "app/sheet/sheet_header.h"
#include "app/work/text.h"
#include "base/unicode.h"

namespace octaphon::app {
namespace {

constexpr int kMarkWidth = 24;  // px, of what opens a heading

/// The state as mark and word.
class StateDelegate : public QStyledItemDelegate {
 public:
  using QStyledItemDelegate::QStyledItemDelegate;
  void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    QStyleOptionViewItem item = option;
    initStyleOption(&item, index);
    if (item.state & QStyle::State_Selected) painter->fillRect(item.rect, colour(Role::Selection));
    const QRectF place(item.rect.left() + 4, item.rect.top(), 14, item.rect.height());
    const auto stage = static_cast<RowStage>(index.data(kStageRole).toInt());
    if (stage != RowStage::None)
      drawStageMark(*painter, place, stage);
    else
      drawStateMark(*painter, place, static_cast<RowState>(index.data(kStateRole).toInt()));
    painter->setFont(Theme::body());
    painter->setPen(colour(Role::Ink));
    painter->drawText(item.rect.adjusted(24, 0, 0, 0), Qt::AlignVCenter | Qt::AlignLeft, item.text);
  }
};

/// The name, with a bar before it where the row has something of its own.
class NameDelegate : public QStyledItemDelegate {
 public:
  using QStyledItemDelegate::QStyledItemDelegate;
  void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    QStyledItemDelegate::paint(painter, option, index);
    if (!index.data(kOwnRole).toBool()) return;
    painter->fillRect(QRect(option.rect.left(), option.rect.top() + 4, 2, option.rect.height() - 8),
                      colour(Role::Accent));
  }
  QWidget* createEditor(QWidget* parent, const QStyleOptionViewItem& option,
                        const QModelIndex& index) const override {
    QWidget* editor = QStyledItemDelegate::createEditor(parent, option, index);
    editor->setFont(Theme::mono());
    editor->setAccessibleName(QObject::tr("Name of its own"));
    return editor;
  }
  /// Another sheet may come while one types.
  void setEditorData(QWidget* editor, const QModelIndex& index) const override {
    const auto* line = qobject_cast<QLineEdit*>(editor);
    if (line == nullptr || !line->isModified()) QStyledItemDelegate::setEditorData(editor, index);
  }

 protected:
  /// Names of one brief differ at their ends.
  void initStyleOption(QStyleOptionViewItem* option, const QModelIndex& index) const override {
    QStyledItemDelegate::initStyleOption(option, index);
    option->textElideMode = Qt::ElideMiddle;
  }
};

}  // namespace

SheetTable::SheetTable(SheetModel& model, QWidget* parent) : QTableView(parent), model_(model) {
  setObjectName("sheet");
  setAccessibleName(tr("Sheet of all files"));
  setHorizontalHeader(new SheetHeader(this));
  setModel(&model);
  setSelectionBehavior(QAbstractItemView::SelectRows);
  setDragEnabled(true);
  setShowGrid(false);
  setWordWrap(false);
  setTabKeyNavigation(false);
  setEditTriggers(QAbstractItemView::EditKeyPressed);
  verticalHeader()->hide();
  verticalHeader()->setDefaultSectionSize(24);
  verticalHeader()->setSectionResizeMode(QHeaderView::Fixed);
  setItemDelegateForColumn(SheetModel::State, new StateDelegate(this));
  setItemDelegateForColumn(SheetModel::File, new NameDelegate(this));
}

std::pair<int, int> SheetTable::linesOnView() const {
  const int first = std::max(0, rowAt(0));
  const int end = rowAt(viewport()->height() - 1);
  return {first, end < 0 ? model_.rowCount() - 1 : end};
}

void SheetTable::paintHeading(QPainter& painter, int line) const {
  const SheetLines::Group& group = *model_.groupAt(line);
  const QRect bar(0, rowViewportPosition(line), viewport()->width(), rowHeight(line));
  const bool isSelected = selectionModel()->isRowSelected(line, {});
  painter.fillRect(bar, colour(isSelected ? Role::Selection : Role::GroupBand));
  if (currentIndex().row() == line && hasFocus()) {
    painter.setPen(colour(Role::Accent));
    painter.drawRect(bar.adjusted(0, 0, -1, -1));
  }
  const QPointF middle(bar.left() + 13, bar.center().y() + 0.5);
  const QPolygonF shut{{middle + QPointF(-2, -4), middle + QPointF(3, 0), middle + QPointF(-2, 4)}};
  const QPolygonF open{{middle + QPointF(-4, -2), middle + QPointF(4, -2), middle + QPointF(0, 3)}};
  painter.setPen(Qt::NoPen);
  painter.setBrush(colour(Role::SecondInk));
  painter.setRenderHint(QPainter::Antialiasing);
  painter.drawPolygon(group.isOpen ? open : shut);
  painter.setFont(Theme::strong());
  painter.setPen(colour(Role::Ink));
  const QString count = text(counted(group.rows.size(), "row"));
  const int room = bar.width() - kMarkWidth - 90;
  const QString title = painter.fontMetrics().elidedText(group.title, Qt::ElideMiddle, room);
  painter.drawText(bar.adjusted(kMarkWidth, 0, 0, 0), Qt::AlignVCenter, title);
  const int width = painter.fontMetrics().horizontalAdvance(title);
  painter.setFont(Theme::caption());
  painter.setPen(colour(Role::SecondInk));
  painter.drawText(bar.adjusted(kMarkWidth + width + 10, 0, 0, 0), Qt::AlignVCenter, count);
}

void SheetTable::paintEvent(QPaintEvent* event) {
  QTableView::paintEvent(event);
  if (model_.grouping() == GroupBy::Nothing) return;
  QPainter painter(viewport());
  const auto [first, last] = linesOnView();
  for (int line = first; line <= last; ++line)
    if (model_.groupAt(line) != nullptr) paintHeading(painter, line);
}

bool SheetTable::toggle(int line) {
  const SheetLines::Group* group = line < 0 ? nullptr : model_.groupAt(line);
  if (group == nullptr) return false;
  model_.setOpen(line, !group->isOpen);
  setCurrentIndex(model_.index(line, 0));
  return true;
}

void SheetTable::keyPressEvent(QKeyEvent* event) {
  const int line = currentIndex().row();
  const SheetLines::Group* group = line < 0 ? nullptr : model_.groupAt(line);
  const bool isArrow = event->key() == Qt::Key_Left || event->key() == Qt::Key_Right;
  if (group != nullptr && isArrow) {
    if (group->isOpen != (event->key() == Qt::Key_Right)) toggle(line);
    return;
  }
  const bool isReturn = event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter;
  if (group != nullptr && isReturn && event->modifiers() == Qt::NoModifier && state() != EditingState) {
    toggle(line);
    return;
  }
  QTableView::keyPressEvent(event);
  // Where there is no other line to go to, this one is selected.
  const bool isStep = event->key() == Qt::Key_Down || event->key() == Qt::Key_Up;
  if (isStep && line >= 0 && !selectionModel()->hasSelection()) selectRow(line);
}

void SheetTable::contextMenuEvent(QContextMenuEvent* event) { emit menuWanted(menuPlace(*event, *this)); }

void SheetTable::mousePressEvent(QMouseEvent* event) {
  const int line = rowAt(static_cast<int>(event->position().y()));
  if (event->button() == Qt::LeftButton && event->position().x() < kMarkWidth && toggle(line)) return;
  QTableView::mousePressEvent(event);
}

void SheetTable::mouseDoubleClickEvent(QMouseEvent* event) {
  if (!toggle(rowAt(static_cast<int>(event->position().y())))) QTableView::mouseDoubleClickEvent(event);
}

}  // namespace octaphon::app
