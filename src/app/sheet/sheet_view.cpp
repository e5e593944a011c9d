#include "app/sheet/sheet_view.h"

#include <algorithm>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QMenu>
#include <QPainter>
#include <QScrollBar>
#include <QStyledItemDelegate>
#include <QVBoxLayout>
#include <set>
#include <unordered_set>

#include "app/look/state_mark.h"
#include "app/look/theme.h"
#include "base/unicode.h"

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

SheetView::SheetView(Work& work, Commands& commands, QWidget* parent)
    : QWidget(parent), work_(work), commands_(commands) {
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
  connectWork();
  showSheet();
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
  const std::pair<int, int> widths[] = {
      {SheetModel::File, 226},     {SheetModel::Region, 120}, {SheetModel::Source, 90},
      {SheetModel::Heard, 106},    {SheetModel::Start, 84},   {SheetModel::LeadIn, 84},
      {SheetModel::Tail, 62},      {SheetModel::Length, 118}, {SheetModel::Channels, 66},
      {SheetModel::Format, 116},   {SheetModel::Rate, 72},    {SheetModel::State, 92},
      {SheetModel::RemarkText, 66}};
  for (const auto& [column, width] : widths) table_->setColumnWidth(column, width);
  for (const int column : {SheetModel::Region, SheetModel::Source, SheetModel::Start, SheetModel::LeadIn,
                           SheetModel::Format, SheetModel::Rate})
    table_->setColumnHidden(column, true);
  header->setSectionResizeMode(SheetModel::File, QHeaderView::Stretch);
}

void SheetView::layOut() {
  hint_ =
      new QLabel(tr("No files yet.\nA brief says which to make: choose regions and sources in its sentence."),
                 table_->viewport());
  hint_->setAlignment(Qt::AlignCenter);

  auto* head = new QHBoxLayout;
  head->setContentsMargins(14, 6, 14, 6);
  head->setSpacing(10);
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
  connect(filter_, &QLineEdit::textChanged, this,
          [this](const QString& words) { changeRows([&] { model_->setFilter(words); }); });
  connect(table_->selectionModel(), &QItemSelectionModel::selectionChanged, this, &SheetView::tellSelection);
  connect(table_->selectionModel(), &QItemSelectionModel::currentRowChanged, this, &SheetView::tellSelection);
  connect(table_, &QTableView::activated, this, [this](const QModelIndex& index) {
    const Sheet& sheet = model_->sheet();
    work_.places().goToRow(sheet.keyOf(sheet.rows[model_->sheetRow(index.row())]));
  });
  connect(table_, &QWidget::customContextMenuRequested, this, &SheetView::showMenu);
  table_->horizontalHeader()->setContextMenuPolicy(Qt::CustomContextMenu);
  connect(table_->horizontalHeader(), &QWidget::customContextMenuRequested, this, &SheetView::showColumns);
}

void SheetView::connectWork() {
  connect(&work_.sheets(), &SheetKeeper::sheetChanged, this, &SheetView::showSheet);
  connect(&work_.rows(), &RowChoice::wanted, this, &SheetView::show);
  model_->setNamesAhead(&work_.namesAhead());
  connect(&work_.namesAhead(), &NamesAhead::changed, this, [this] {
    if (const auto [first, last] = rowsOnView(); first <= last) model_->tellNames(first, last);
  });
  onView_.setSingleShot(true);
  onView_.setInterval(0);
  connect(&onView_, &QTimer::timeout, this, &SheetView::tellRowsOnView);
  const auto later = [this] { onView_.start(); };
  connect(table_->verticalScrollBar(), &QScrollBar::valueChanged, this, later);
  connect(model_, &QAbstractItemModel::modelReset, this, later);
  connect(model_, &QAbstractItemModel::layoutChanged, this, later);
  connect(&Theme::instance(), &Theme::changed, table_->viewport(), qOverload<>(&QWidget::update));
}

void SheetView::showColumns(const QPoint& at) {
  QMenu menu;
  for (int column = 1; column < SheetModel::kColumns; ++column) {
    QAction* action = menu.addAction(model_->headerData(column, Qt::Horizontal, Qt::DisplayRole).toString());
    action->setCheckable(true);
    action->setChecked(!table_->isColumnHidden(column));
    connect(action, &QAction::toggled, this,
            [this, column](bool on) { table_->setColumnHidden(column, !on); });
  }
  menu.exec(table_->horizontalHeader()->mapToGlobal(at));
}

/// What was selected stays so, where it is still there: places go with the list they count in.
void SheetView::changeRows(const std::function<void()>& change) {
  const std::vector<std::string> keys = work_.rows().keys();
  const std::string current = work_.rows().current();
  isLoading_ = true;
  change();
  if (!keys.empty() && !table_->selectionModel()->hasSelection()) selectAgain(keys, current);
  isLoading_ = false;
  tellSelection();
  updateCaption();
}

void SheetView::showSheet() {
  changeRows([this] { model_->setSheet(work_.sheets().sheet()); });
}

/// Rows of the view that can be seen; the last before the first where there are none.
std::pair<int, int> SheetView::rowsOnView() const {
  const int first = std::max(0, table_->rowAt(0));
  const int end = table_->rowAt(table_->viewport()->height() - 1);
  return {first, end < 0 ? model_->rowCount() - 1 : end};
}

void SheetView::tellRowsOnView() {
  const auto [first, last] = rowsOnView();
  std::set<std::size_t> rows;
  for (int row = first; row <= last; ++row) rows.insert(model_->sheetRow(row));
  work_.namesAhead().setShown(this, std::move(rows));
}

/// Where there is little room, columns that the sentence tells as well make way for the names.
void SheetView::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  const bool narrow = width() < 640;
  if (narrow != narrow_)
    for (const int column : {SheetModel::Heard, SheetModel::Channels})
      table_->setColumnHidden(column, narrow);
  narrow_ = narrow;
  onView_.start();
  hint_->setGeometry(table_->viewport()->rect());
}

void SheetView::updateCaption() {
  hint_->setVisible(model_->sheet().rows.empty());
  hint_->setGeometry(table_->viewport()->rect());
  const std::size_t all = model_->sheet().rows.size();
  const auto shown = static_cast<std::size_t>(model_->rowCount());
  const QString rows = QString::fromStdString(counted(all, "row"));
  const std::size_t leftOver = work_.sheets().counts().leftOver;
  const QString besides = leftOver > 0 ? tr(", %1 left over").arg(leftOver) : QString();
  caption_->setText((shown == all ? rows : tr("%1 of %2").arg(shown).arg(rows)) + besides);
}

std::vector<std::size_t> SheetView::selectedRows() const {
  std::set<std::size_t> rows;
  for (const QModelIndex& index : table_->selectionModel()->selectedRows())
    rows.insert(model_->sheetRow(index.row()));
  std::vector<std::size_t> ordered;
  const QModelIndex current = table_->currentIndex();
  if (current.isValid() && rows.erase(model_->sheetRow(current.row())) > 0)
    ordered.push_back(model_->sheetRow(current.row()));
  ordered.insert(ordered.end(), rows.begin(), rows.end());
  return ordered;
}

void SheetView::tellSelection() {
  if (!isLoading_) work_.rows().choose(model_->shared(), selectedRows());
}

void SheetView::selectAgain(const std::vector<std::string>& keys, const std::string& current) {
  const std::unordered_set<std::string> wanted(keys.begin(), keys.end());
  QItemSelection selection;
  QModelIndex first;
  for (int row = 0; row < model_->rowCount(); ++row) {
    const Sheet& sheet = model_->sheet();
    const std::string key = sheet.keyOf(sheet.rows[model_->sheetRow(row)]);
    if (!wanted.contains(key)) continue;
    const QModelIndex index = model_->index(row, 0);
    selection.select(index, index);
    if (key == current) first = index;
  }
  table_->selectionModel()->select(selection,
                                   QItemSelectionModel::ClearAndSelect | QItemSelectionModel::Rows);
  if (first.isValid()) table_->selectionModel()->setCurrentIndex(first, QItemSelectionModel::NoUpdate);
}

void SheetView::show(const std::string& key) {
  const auto row = model_->sheet().find(key);
  const int at = row ? model_->viewRow(*row) : -1;
  if (at < 0) return;
  const QModelIndex index = model_->index(at, 0);
  table_->setCurrentIndex(index);
  table_->scrollTo(index);
}

void SheetView::focusFilter() { filter_->setFocus(Qt::ShortcutFocusReason); }

/// Commands go by the keys of what is selected: the menu may stay open while another sheet comes.
void SheetView::showMenu(const QPoint& at) {
  if (work_.rows().isEmpty()) return;
  QMenu menu(this);
  commands_.fill(menu, {"row.make", "row.make-over", "row.hold", "", "row.hear", "row.hear-file",
                        "row.hear-difference", "", "row.go", "row.copy-names"});
  menu.exec(table_->viewport()->mapToGlobal(at));
}

}  // namespace octaphon::app
