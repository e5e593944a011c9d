#include "app/sheet/sheet_view.h"

#include <algorithm>
#include <QApplication>
#include <QClipboard>
#include <QDrag>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QMenu>
#include <QMimeData>
#include <QScrollBar>
#include <QUrl>
#include <QVBoxLayout>
#include <set>
#include <unordered_set>

#include "app/look/first_focus.h"
#include "app/look/theme.h"
#include "app/sheet/columns_dialog.h"
#include "app/sheet/sheet_text.h"
#include "app/work/file_writing.h"
#include "app/work/settings.h"
#include "app/work/text.h"
#include "base/unicode.h"
#include "brief/row_marks.h"

namespace octaphon::app {
namespace {

constexpr const char* kLayout = "sheet-columns-2";  // the number changes with the columns

QStringList groupTitles() {
  return {SheetView::tr("Not grouped"), SheetView::tr("By brief"), SheetView::tr("By span"),
          SheetView::tr("By source"),   SheetView::tr("By state"), SheetView::tr("By remark")};
}

}  // namespace

SheetView::SheetView(Work& work, Commands& commands, QWidget* parent)
    : QWidget(parent), work_(work), commands_(commands), model_(new SheetModel(this)) {
  setObjectName("pane");
  makeHead();
  table_ = new SheetTable(*model_, this);
  makeColumns();
  table_->installEventFilter(this);
  layOut();
  addCommands();
  connectHead();
  connectTable();
  connectWork();
  model_->setSheet(work_.sheets().sheet(), false);
}

SheetView::~SheetView() = default;

void SheetView::makeHead() {
  caption_ = new QLabel(this);
  caption_->setFont(Theme::caption());
  groups_ = new QComboBox(this);
  groups_->addItems(groupTitles());
  groups_->setAccessibleName(tr("Headings of the sheet"));
  groups_->setToolTip(tr("Puts rows under headings; Left and Right close and open one"));
  column_ = new QComboBox(this);
  column_->addItem(tr("in any column"), -1);
  for (int column = 0; column < SheetModel::kColumns; ++column)
    column_->addItem(tr("in %1").arg(SheetModel::title(column)), column);
  column_->setAccessibleName(tr("Column that is filtered"));
  filter_ = new QLineEdit(this);
  filter_->setPlaceholderText(tr("Show only rows with …"));
  filter_->setToolTip(tr("Words that all have to be there; in columns of numbers also >2 or <0.5"));
  filter_->setClearButtonEnabled(true);
  filter_->setMaximumWidth(220);
  filter_->setAccessibleName(tr("Filter of the sheet"));
  filter_->installEventFilter(this);
}

void SheetView::makeColumns() {
  QHeaderView* header = table_->horizontalHeader();
  header->setHighlightSections(false);
  header->setSectionsClickable(true);
  header->setSectionsMovable(true);
  header->setFirstSectionMovable(false);
  header->setSortIndicatorShown(true);
  header->setSortIndicator(-1, Qt::AscendingOrder);
  header->setSortIndicatorClearable(true);
  header->setMinimumSectionSize(40);
  table_->setSortingEnabled(true);
  const std::pair<int, int> widths[] = {
      {SheetModel::File, 226},     {SheetModel::BriefName, 120},    {SheetModel::Region, 120},
      {SheetModel::Source, 90},    {SheetModel::Heard, 106},        {SheetModel::Start, 84},
      {SheetModel::LeadIn, 84},    {SheetModel::Tail, 62},          {SheetModel::Length, 118},
      {SheetModel::Channels, 66},  {SheetModel::Format, 116},       {SheetModel::Rate, 72},
      {SheetModel::Gain, 62},      {SheetModel::Peak, 88},          {SheetModel::TruePeak, 88},
      {SheetModel::Loudness, 112}, {SheetModel::LoudnessRange, 66}, {SheetModel::State, 92},
      {SheetModel::RemarkText, 66}};
  for (const auto& [column, width] : widths) table_->setColumnWidth(column, width);
  for (const int column :
       {SheetModel::BriefName, SheetModel::Region, SheetModel::Source, SheetModel::Start, SheetModel::LeadIn,
        SheetModel::Format, SheetModel::Rate, SheetModel::Gain, SheetModel::Peak, SheetModel::TruePeak,
        SheetModel::Loudness, SheetModel::LoudnessRange})
    table_->setColumnHidden(column, true);
  const QByteArray kept = settings::layout(kLayout);
  hasOwnColumns_ = !kept.isEmpty() && header->restoreState(kept);
  tellShownLevels();
  header->setSortIndicator(-1, Qt::AscendingOrder);
  header->setSectionResizeMode(SheetModel::File, QHeaderView::Stretch);
}

void SheetView::layOut() {
  hint_ =
      new QLabel(tr("No files yet.\nA brief says which to make: choose regions and sources in its sentence."),
                 table_->viewport());
  hint_->setAlignment(Qt::AlignCenter);
  auto* head = new QHBoxLayout;
  head->setContentsMargins(14, 6, 14, 6);
  head->setSpacing(8);
  head->addWidget(caption_);
  head->addStretch();
  head->addWidget(groups_);
  head->addWidget(column_);
  head->addWidget(filter_, 1);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  layout->addLayout(head);
  layout->addWidget(table_);
  setFirstFocus(this, table_);
}

/// What only the table knows: columns, and what is shown.
void SheetView::addCommands() {
  commands_.add(std::vector<Command>{{.id = "sheet.copy",
                                      .words = tr("Copy rows as &text"),
                                      .keys = {QKeySequence::Copy},
                                      .needs = needs::row,
                                      .run = [this] { copyText(); },
                                      .tip = tr("With the columns that are shown, apart by tabs"),
                                      .isLocal = true},
                                     {.id = "sheet.export",
                                      .words = tr("E&xport the sheet …"),
                                      .keys = {},
                                      .needs = needs::session,
                                      .run = [this] { exportTable(); }},
                                     {.id = "sheet.columns",
                                      .words = tr("Col&umns of the sheet …"),
                                      .keys = {},
                                      .needs = needs::session,
                                      .run = [this] { openColumns(); }}});
  commands_.listenIn(table_, {"sheet.copy"});
}

void SheetView::connectHead() {
  connect(groups_, &QComboBox::currentIndexChanged, this,
          [this](int index) { model_->groupBy(static_cast<GroupBy>(index)); });
  const auto filter = [this] { model_->setFilter(filter_->text(), column_->currentData().toInt()); };
  connect(filter_, &QLineEdit::textChanged, this, filter);
  connect(column_, &QComboBox::currentIndexChanged, this, filter);
}

void SheetView::connectTable() {
  connect(table_->selectionModel(), &QItemSelectionModel::selectionChanged, this, &SheetView::followUser);
  connect(table_->selectionModel(), &QItemSelectionModel::currentRowChanged, this, &SheetView::tellSelection);
  connect(table_, &QTableView::activated, this, [this](const QModelIndex& index) {
    if (model_->groupAt(index.row()) != nullptr) return;
    const Sheet& sheet = model_->sheet();
    work_.places().goToRow(sheet.keyOf(sheet.rows[model_->sheetRow(index.row())]));
  });
  connect(table_, &SheetTable::menuWanted, this, &SheetView::showMenu);
  connect(table_, &SheetTable::dragWanted, this, &SheetView::dragFiles);
  connect(model_, &SheetModel::aboutToArrange, this, [this] { isLoading_ = true; });
  connect(model_, &SheetModel::arranged, this, &SheetView::keepSelection);
  connect(model_, &SheetModel::nameTyped, this, &SheetView::takeName);
  QHeaderView* header = table_->horizontalHeader();
  header->setContextMenuPolicy(Qt::CustomContextMenu);
  connect(header, &QWidget::customContextMenuRequested, this, &SheetView::showColumns);
  connect(header, &QHeaderView::sectionMoved, this, &SheetView::keepColumns);
  connect(header, &QHeaderView::sectionResized, this, [this] {
    if (QApplication::mouseButtons() != Qt::NoButton) keepColumns();
  });
}

void SheetView::connectWork() {
  connect(&work_.sheets(), &SheetKeeper::sheetChanged, this, &SheetView::showSheet);
  connect(&work_.rows(), &RowChoice::wanted, this, &SheetView::show);
  connect(&work_.rows(), &RowChoice::allWanted, this,
          [this](const std::vector<std::size_t>& rows, bool isSought) {
            if (isSought) {
              filter_->clear();
              groups_->setCurrentIndex(0);
            }
            whenArranged([this, sheet = work_.sheets().sheet(), rows] {
              if (model_->shared() == sheet) showAll(rows);
            });
          });
  model_->setNamesAhead(&work_.namesAhead());
  connect(&work_.namesAhead(), &NamesAhead::changed, this, [this] {
    if (const auto [first, last] = table_->linesOnView(); first <= last) model_->tellNames(first, last);
  });
  model_->setMaking(&work_.making());
  connect(&work_.making(), &Making::stagesChanged, this, [this] {
    if (const auto [first, last] = table_->linesOnView(); first <= last) model_->tellStages(first, last);
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
    QAction* action = menu.addAction(SheetModel::title(column));
    action->setCheckable(true);
    action->setChecked(!table_->isColumnHidden(column));
    connect(action, &QAction::toggled, this, [this, column](bool on) {
      table_->setColumnHidden(column, !on);
      keepColumns();
    });
  }
  menu.exec(table_->horizontalHeader()->mapToGlobal(at));
}

/// The same and more, without a mouse.
void SheetView::openColumns() {
  QStringList titles;
  for (int column = 0; column < SheetModel::kColumns; ++column) titles << SheetModel::title(column);
  auto* dialog = new ColumnsDialog(*table_->horizontalHeader(), titles, window());
  dialog->setAttribute(Qt::WA_DeleteOnClose);
  connect(dialog, &ColumnsDialog::changed, this, &SheetView::keepColumns);
  dialog->show();
}

void SheetView::keepColumns() {
  hasOwnColumns_ = true;
  tellShownLevels();
  settings::setLayout(kLayout, table_->horizontalHeader()->saveState());
}

/// What was selected stays so, where it is still there: places go with the list they count in.
void SheetView::keepSelection() {
  if (!work_.rows().isEmpty() && !table_->selectionModel()->hasSelection())
    selectAgain(work_.rows().keys(), work_.rows().current());
  isLoading_ = false;
  tellSelection();
  showLevelsWhereAsked();
  updateCaption();
  if (const auto act = std::exchange(whenArranged_, {})) act();
}

void SheetView::showSheet() { model_->setSheet(work_.sheets().sheet(), work_.sheets().keepsRows()); }

/// Now, or as soon as what was asked for is shown; what was to be done then before gives way.
void SheetView::whenArranged(std::function<void()> act) {
  whenArranged_ = std::move(act);
  if (!model_->isArranging()) std::exchange(whenArranged_, {})();
}

/// How loud files are made is seen without asking for the columns.
void SheetView::showLevelsWhereAsked() {
  const std::vector<PlannedBrief>& briefs = model_->sheet().briefs;
  asksLevels_ = std::any_of(briefs.begin(), briefs.end(), [](const PlannedBrief& brief) {
    return std::any_of(brief.levellings.begin(), brief.levellings.end(),
                       [](const Levelling& asked) { return !asked.changesNothing(); });
  });
  fitColumns();
}

/// What is shown is measured when files are made.
void SheetView::tellShownLevels() {
  const auto isShown = [this](int column) { return !table_->isColumnHidden(column); };
  work_.sheets().setShownLevels(
      {isShown(SheetModel::TruePeak), isShown(SheetModel::Loudness) || isShown(SheetModel::LoudnessRange)});
}

void SheetView::tellRowsOnView() {
  const auto [first, last] = table_->linesOnView();
  std::set<std::size_t> rows;
  for (int line = first; line <= last; ++line)
    if (model_->groupAt(line) == nullptr) rows.insert(model_->sheetRow(line));
  work_.namesAhead().setShown(this, std::move(rows));
}

/// Where there is little room, columns make way for the names: those first that the sentence tells as well.
void SheetView::fitColumns() {
  if (hasOwnColumns_) return;
  constexpr int kEnough = 640, kLevels = 190;  // px
  const bool showsLevels = asksLevels_ && width() >= kEnough;
  const auto hide = [this](int column, bool on) {
    if (table_->isColumnHidden(column) != on) table_->setColumnHidden(column, on);
  };
  for (const int column : {SheetModel::Heard, SheetModel::Channels})
    hide(column, width() < kEnough + (showsLevels ? kLevels : 0));
  for (const int column : {SheetModel::Gain, SheetModel::Loudness}) hide(column, !showsLevels);
  tellShownLevels();
}

void SheetView::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  fitColumns();
  onView_.start();
  hint_->setGeometry(table_->viewport()->rect());
}

void SheetView::updateCaption() {
  hint_->setVisible(model_->sheet().rows.empty());
  hint_->setGeometry(table_->viewport()->rect());
  const std::size_t all = model_->sheet().rows.size();
  const std::size_t shown = model_->shownRows();
  const QString rows = text(counted(all, "row"));
  const std::size_t leftOver = work_.sheets().counts().leftOver;
  const QString besides = leftOver > 0 ? tr(", %1 left over").arg(leftOver) : QString();
  caption_->setText((shown == all ? rows : tr("%1 of %2").arg(shown).arg(rows)) + besides);
}

/// With all rows under headings that are selected.
std::vector<std::size_t> SheetView::selectedRows() const {
  std::vector<std::size_t> rows;
  for (const QItemSelectionRange& range : table_->selectionModel()->selection())
    for (int line = range.top(); line <= range.bottom(); ++line)
      for (const std::size_t row : model_->rowsAt(line)) rows.push_back(row);
  std::sort(rows.begin(), rows.end());
  rows.erase(std::unique(rows.begin(), rows.end()), rows.end());
  const QModelIndex current = table_->currentIndex();
  if (current.isValid() && table_->selectionModel()->isRowSelected(current.row(), {})) {
    const auto first = std::find(rows.begin(), rows.end(), model_->rowsAt(current.row()).front());
    if (first != rows.end()) std::rotate(rows.begin(), first, first + 1);
  }
  return rows;
}

void SheetView::tellSelection() {
  if (isLoading_) return;
  const std::vector<std::size_t> rows = selectedRows();
  work_.rows().choose(model_->shared(), rows);
}

/// Who works in the table itself has the regions of the rows selected.
void SheetView::followUser() {
  if (isLoading_) return;
  const std::vector<std::size_t> rows = selectedRows();
  work_.rows().choose(model_->shared(), rows);
  if (table_->hasFocus()) work_.inStep().followRows(model_->sheet(), rows);
}

void SheetView::selectAgain(const std::vector<std::string>& keys, const std::string& current) {
  std::vector<std::size_t> rows;
  for (const std::string& key : keys)
    if (const auto row = model_->sheet().find(key)) rows.push_back(*row);
  table_->selectionModel()->select(linesOf(rows, true).first, QItemSelectionModel::ClearAndSelect);
  const auto currentRow = model_->sheet().find(current);
  const int at = currentRow ? linesOf({*currentRow}, true).second : -1;
  if (at >= 0) table_->selectionModel()->setCurrentIndex(model_->index(at, 0), QItemSelectionModel::NoUpdate);
}

/// The lines that show rows, those beside each other as one range; and the first of them, −1 where there is
/// none. `isFolded`: a closed heading stands for what it hides.
std::pair<QItemSelection, int> SheetView::linesOf(const std::vector<std::size_t>& rows, bool isFolded) const {
  std::vector<int> shown;
  for (const std::size_t row : rows)
    if (const int line = model_->viewRow(row); line >= 0) shown.push_back(line);
  if (isFolded && shown.size() < rows.size()) addClosedHeadings(shown, rows);
  std::sort(shown.begin(), shown.end());
  std::pair<QItemSelection, int> lines{{}, shown.empty() ? -1 : shown.front()};
  for (auto begin = shown.begin(); begin != shown.end();) {
    const auto end = std::adjacent_find(begin, shown.end(), [](int a, int b) { return b != a + 1; });
    const int last = end == shown.end() ? shown.back() : *end;
    lines.first.select(model_->index(*begin, 0), model_->index(last, SheetModel::kColumns - 1));
    begin = end == shown.end() ? end : end + 1;
  }
  return lines;
}

/// Those that hide one of the rows.
void SheetView::addClosedHeadings(std::vector<int>& lines, const std::vector<std::size_t>& rows) const {
  std::vector<char> isWanted(model_->sheet().rows.size(), 0);
  for (const std::size_t row : rows) isWanted[row] = 1;
  for (int line = 0; line < model_->rowCount(); ++line) {
    const SheetLines::Group* group = model_->groupAt(line);
    if (group != nullptr && !group->isOpen &&
        std::any_of(group->rows.begin(), group->rows.end(),
                    [&](std::size_t row) { return isWanted[row] != 0; }))
      lines.push_back(line);
  }
}

void SheetView::show(const std::string& key) {
  whenArranged([this, key] {
    const auto row = model_->sheet().find(key);
    const int at = row ? model_->viewRow(*row) : -1;
    if (at < 0) return;
    const QModelIndex index = model_->index(at, 0);
    table_->setCurrentIndex(index);
    table_->scrollTo(index);
  });
}

/// Rows of what was selected elsewhere. Lines beside each other are selected at once.
void SheetView::showAll(const std::vector<std::size_t>& rows) {
  const auto [selection, first] = linesOf(rows, false);
  if (first < 0) return;
  isLoading_ = true;
  table_->selectionModel()->select(selection, QItemSelectionModel::ClearAndSelect);
  table_->selectionModel()->setCurrentIndex(model_->index(first, 0), QItemSelectionModel::NoUpdate);
  isLoading_ = false;
  table_->scrollTo(model_->index(first, 0));
  work_.rows().choose(model_->shared(), selectedRows());
}

/// An empty name gives the row back to the template.
void SheetView::takeName(std::size_t row, const QString& name) {
  const std::string key = model_->sheet().keyOf(model_->sheet().rows[row]);
  const std::string typed = name.trimmed().toStdString();
  work_.document().edit(typed.empty() ? tr("Take a name back") : tr("Name a file by hand"),
                        [&](Session& session) {
                          for (Brief& brief : session.briefs)
                            changeException(brief, key, [&](RowException& own) { own.name = typed; });
                        });
}

std::vector<int> SheetView::shownColumns() const {
  std::vector<int> columns;
  const QHeaderView* header = table_->horizontalHeader();
  for (int place = 0; place < header->count(); ++place)
    if (const int column = header->logicalIndex(place); !header->isSectionHidden(column))
      columns.push_back(column);
  return columns;
}

std::vector<std::size_t> SheetView::rowsInOrder() const {
  std::vector<std::size_t> rows;
  std::set<std::size_t> taken;
  const bool isAll = !table_->selectionModel()->hasSelection();
  for (int line = 0; line < model_->rowCount(); ++line) {
    const bool isChosen = isAll || table_->selectionModel()->isRowSelected(line, {});
    if (!isChosen) continue;
    for (const std::size_t row : model_->rowsAt(line))
      if (taken.insert(row).second) rows.push_back(row);
  }
  return rows;
}

void SheetView::copyText() {
  QApplication::clipboard()->setText(asTabs(model_->sheet(), rowsInOrder(), shownColumns()));
}

/// What the filter shows, in its order, with the columns that are shown.
void SheetView::exportTable() {
  const QString file = QFileDialog::getSaveFileName(this, tr("Export the sheet"), {}, tr("Table (*.csv)"));
  if (file.isEmpty()) return;
  std::vector<std::size_t> rows;
  for (int line = 0; line < model_->rowCount(); ++line)
    for (const SheetLines::Group* group = model_->groupAt(line); const std::size_t row : model_->rowsAt(line))
      if (group == nullptr || !group->isOpen) rows.push_back(row);
  writeFile(
      work_.jobs(), work_.news(), file,
      [sheet = model_->sharedSheet(), rows, columns = shownColumns()] {
        return asCsv(*sheet, rows, columns).toStdString();
      },
      tr("%1 written to %2").arg(text(counted(rows.size(), "row")), file));
}

/// From the filter down to the first row that it left.
bool SheetView::eventFilter(QObject* watched, QEvent* event) {
  if (watched == table_) {
    // Keys are for what was asked for before them, a mouse is for what is seen.
    const bool isKey = event->type() == QEvent::KeyPress;
    const bool isByKey = event->type() == QEvent::FocusIn &&
                         static_cast<QFocusEvent*>(event)->reason() != Qt::MouseFocusReason;
    if (isKey || isByKey) model_->finishArranging();
    return false;
  }
  if (event->type() != QEvent::KeyPress) return false;
  const int key = static_cast<QKeyEvent*>(event)->key();
  if (key != Qt::Key_Down && key != Qt::Key_Return && key != Qt::Key_Enter) return false;
  table_->setFocus(Qt::OtherFocusReason);
  if (!table_->currentIndex().isValid() && model_->rowCount() > 0)
    table_->setCurrentIndex(model_->index(0, 0));
  return true;
}

void SheetView::focusFilter() { filter_->setFocus(Qt::ShortcutFocusReason); }

/// Commands go by the keys of what is selected: the menu may stay open while another sheet comes.
/// To a file manager, or another program: those that are there.
void SheetView::dragFiles() {
  QList<QUrl> files;
  for (const QString& file : work_.rows().filesThere()) files << QUrl::fromLocalFile(file);
  if (files.isEmpty()) return work_.news().say(tr("None of these files is there: make them first"));
  auto* mime = new QMimeData;
  mime->setUrls(files);
  auto* drag = new QDrag(this);
  drag->setMimeData(mime);
  drag->exec(Qt::CopyAction);
}

void SheetView::showMenu(const QPoint& at) {
  if (work_.rows().isEmpty()) return;
  QMenu menu(this);
  commands_.fill(menu, {"row.make", "row.make-over", "row.hold", "row.as-brief", "", "row.hear",
                        "row.hear-file", "row.hear-difference", "row.equally-loud", "row.measure", "",
                        "row.go", "row.copy-names", "row.copy-files", "sheet.copy", "sheet.export"});
  menu.exec(at);
}

}  // namespace octaphon::app
