#include "sheet_view.h"

#include <algorithm>
#include <QClipboard>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QMenu>
#include <QPainter>
#include <QStyledItemDelegate>
#include <QVBoxLayout>
#include <set>

#include "base/unicode.h"
#include "outline_view.h"
#include "state_mark.h"
#include "theme.h"

namespace octaphon::app {
namespace {

/// The state as mark and word.
class StateDelegate : public QStyledItemDelegate {
 public:
  using QStyledItemDelegate::QStyledItemDelegate;
  void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    QStyleOptionViewItem item = option;
    initStyleOption(&item, index);
    if (item.state & QStyle::State_Selected) painter->fillRect(item.rect, colour(Role::Selection));
    drawStateMark(*painter, QRectF(item.rect.left() + 4, item.rect.top(), 14, item.rect.height()),
                  static_cast<RowState>(index.data(kStateRole).toInt()));
    painter->setFont(Theme::body());
    painter->setPen(colour(Role::Ink));
    painter->drawText(item.rect.adjusted(24, 0, 0, 0), Qt::AlignVCenter | Qt::AlignLeft, item.text);
  }
};

}  // namespace

SheetView::SheetView(QWidget* parent) : QWidget(parent) {
  setObjectName("pane");
  caption_ = new QLabel(this);
  caption_->setFont(Theme::caption());
  filter_ = new QLineEdit(this);
  filter_->setPlaceholderText(tr("Show only rows with …"));
  filter_->setClearButtonEnabled(true);
  filter_->setMaximumWidth(240);
  filter_->setAccessibleName(tr("Filter of the sheet"));
  makeTable();
  makeColumns();
  layOut();
  connectTable();
}

void SheetView::makeTable() {
  model_ = new SheetModel(this);
  table_ = new QTableView(this);
  table_->setObjectName("sheet");
  table_->setAccessibleName(tr("Sheet of all files"));
  table_->setModel(model_);
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setShowGrid(false);
  table_->setWordWrap(false);
  table_->setTabKeyNavigation(false);
  table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
  table_->verticalHeader()->hide();
  table_->verticalHeader()->setDefaultSectionSize(24);
  table_->verticalHeader()->setSectionResizeMode(QHeaderView::Fixed);
  table_->setItemDelegateForColumn(SheetModel::State, new StateDelegate(table_));
  table_->setContextMenuPolicy(Qt::CustomContextMenu);
}

void SheetView::makeColumns() {
  QHeaderView* header = table_->horizontalHeader();
  header->setHighlightSections(false);
  header->setSectionsClickable(true);
  header->setSortIndicatorShown(true);
  header->setSortIndicator(-1, Qt::AscendingOrder);
  header->setSortIndicatorClearable(true);
  header->setMinimumSectionSize(40);
  table_->setSortingEnabled(true);
  const std::pair<int, int> widths[] = {{SheetModel::File, 226},    {SheetModel::Region, 120},
                                        {SheetModel::Source, 90},   {SheetModel::Heard, 128},
                                        {SheetModel::Start, 84},    {SheetModel::Length, 78},
                                        {SheetModel::Channels, 72}, {SheetModel::Format, 116},
                                        {SheetModel::State, 104},   {SheetModel::RemarkText, 124}};
  for (const auto& [column, width] : widths) table_->setColumnWidth(column, width);
  for (const int column : {SheetModel::Region, SheetModel::Source, SheetModel::Start, SheetModel::Format})
    table_->setColumnHidden(column, true);
  header->setSectionResizeMode(SheetModel::File, QHeaderView::Stretch);
}

void SheetView::layOut() {
  hint_ =
      new QLabel(tr("No files yet.\nA brief says which to make: choose regions and sources in its sentence."),
                 table_->viewport());
  hint_->setAlignment(Qt::AlignCenter);

  auto* title = new QLabel(tr("Sheet"), this);
  title->setFont(Theme::strong());
  auto* head = new QHBoxLayout;
  head->setContentsMargins(14, 6, 14, 6);
  head->setSpacing(10);
  head->addWidget(title);
  head->addWidget(caption_);
  head->addStretch();
  head->addWidget(filter_);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  layout->addLayout(head);
  layout->addWidget(table_);
}

void SheetView::connectTable() {
  connect(filter_, &QLineEdit::textChanged, this, [this](const QString& words) {
    model_->setFilter(words);
    updateCaption();
  });
  connect(table_->selectionModel(), &QItemSelectionModel::currentRowChanged, this,
          [this](const QModelIndex& current) {
            emit rowChosen(current.isValid() ? static_cast<int>(model_->sheetRow(current.row())) : -1);
          });
  connect(table_, &QTableView::activated, this, [this](const QModelIndex& index) {
    emit goToRow(static_cast<int>(model_->sheetRow(index.row())));
  });
  connect(table_, &QWidget::customContextMenuRequested, this, &SheetView::showMenu);
  QHeaderView* header = table_->horizontalHeader();
  header->setContextMenuPolicy(Qt::CustomContextMenu);
  connect(header, &QWidget::customContextMenuRequested, this, [this](const QPoint& at) {
    QMenu menu;
    for (int column = 1; column < SheetModel::kColumns; ++column) {
      QAction* action =
          menu.addAction(model_->headerData(column, Qt::Horizontal, Qt::DisplayRole).toString());
      action->setCheckable(true);
      action->setChecked(!table_->isColumnHidden(column));
      connect(action, &QAction::toggled, this,
              [this, column](bool on) { table_->setColumnHidden(column, !on); });
    }
    menu.exec(table_->horizontalHeader()->mapToGlobal(at));
  });
}

void SheetView::setSheet(std::shared_ptr<const Sheet> sheet) {
  model_->setSheet(std::move(sheet));
  updateCaption();
}

/// Where there is little room, columns that the sentence tells as well make way for the names.
void SheetView::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  const bool narrow = width() < 640;
  if (narrow != narrow_)
    for (const int column : {SheetModel::Heard, SheetModel::Channels})
      table_->setColumnHidden(column, narrow);
  narrow_ = narrow;
  hint_->setGeometry(table_->viewport()->rect());
}

void SheetView::updateCaption() {
  hint_->setVisible(model_->sheet().rows.empty());
  hint_->setGeometry(table_->viewport()->rect());
  const std::size_t all = model_->sheet().rows.size();
  const auto shown = static_cast<std::size_t>(model_->rowCount());
  const QString rows = QString::fromStdString(counted(all, "row"));
  caption_->setText(shown == all ? rows : tr("%1 of %2").arg(shown).arg(rows));
}

std::vector<std::size_t> SheetView::selectedRows() const {
  std::set<std::size_t> rows;
  for (const QModelIndex& index : table_->selectionModel()->selectedRows())
    rows.insert(model_->sheetRow(index.row()));
  return {rows.begin(), rows.end()};
}

void SheetView::select(std::size_t sheetRow) {
  const int row = model_->viewRow(sheetRow);
  if (row < 0) return;
  const QModelIndex index = model_->index(row, 0);
  table_->setCurrentIndex(index);
  table_->scrollTo(index);
}

void SheetView::focusFilter() { filter_->setFocus(Qt::ShortcutFocusReason); }

void SheetView::showMenu(const QPoint& at) {
  const std::vector<std::size_t> rows = selectedRows();
  if (rows.empty()) return;
  const Sheet& sheet = model_->sheet();
  const bool held = std::any_of(rows.begin(), rows.end(), [&](std::size_t row) {
    return sheet.rows[row].state != RowState::Fault && !mayBeMadeAgain(sheet, sheet.rows[row]);
  });
  QMenu menu;
  const QString files = QString::fromStdString(counted(rows.size(), "file"));
  menu.addAction(tr("Make %1").arg(files), this, [this, rows] { emit makeRows(rows, false); });
  if (held)
    menu.addAction(tr("Make %1, replacing whatever is there").arg(files), this,
                   [this, rows] { emit makeRows(rows, true); });
  menu.addSeparator();
  menu.addAction(tr("Go to the region"), this,
                 [this, rows] { emit goToRow(static_cast<int>(rows.front())); });
  menu.addAction(tr("Copy names"), this, [this, rows] {
    QStringList names;
    for (const std::size_t row : rows) names << QString::fromStdString(model_->sheet().rows[row].file);
    QGuiApplication::clipboard()->setText(names.join('\n'));
  });
  menu.exec(table_->viewport()->mapToGlobal(at));
}

}  // namespace octaphon::app
