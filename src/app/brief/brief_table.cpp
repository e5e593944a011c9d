#include "app/brief/brief_table.h"

#include <algorithm>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QShortcut>

#include "app/look/first_focus.h"
#include "app/look/theme.h"
#include "app/work/text.h"
#include "base/unicode.h"
#include "session/presets.h"

namespace octaphon::app {

BriefTable::BriefTable(Work& work, Commands& commands, QWidget* parent)
    : QWidget(parent), work_(work), model_(new BriefTableModel(work, this)) {
  setObjectName("pane");
  layOut(commands);
  connect(table_, &QTableView::activated, this, &BriefTable::openEditor);
  connect(table_->selectionModel(), &QItemSelectionModel::selectionChanged, this,
          &BriefTable::chooseSelected);
  connect(&work_.document(), &Document::opened, this, &BriefTable::closeEditor);
  connect(&work_.document(), &Document::changed, this, &BriefTable::follow);
  connect(&work_.briefs(), &BriefChoice::changed, this, &BriefTable::follow);
  connect(&Theme::instance(), &Theme::changed, table_->viewport(), qOverload<>(&QWidget::update));
}

void BriefTable::layOut(Commands& commands) {
  table_ = new QTableView(this);
  table_->setObjectName("briefTable");
  table_->setAccessibleName(tr("Table of briefs"));
  table_->setModel(model_);
  table_->setShowGrid(false);
  table_->setWordWrap(false);
  table_->setTabKeyNavigation(false);
  table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
  table_->setToolTip({});
  table_->verticalHeader()->setDefaultSectionSize(26);  // names stay while phrases scroll
  table_->verticalHeader()->setFixedWidth(170);
  table_->verticalHeader()->setSectionsClickable(false);
  table_->verticalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  table_->horizontalHeader()->setHighlightSections(false);
  table_->horizontalHeader()->setSectionsMovable(true);
  for (int column = 0; column < model_->columnCount(); ++column) table_->setColumnWidth(column, 150);
  table_->setColumnWidth(BriefTableModel::On, 34);
  table_->setColumnWidth(BriefTableModel::Files, 52);
  commands.listenIn(table_, {"brief.delete"});
  const auto key = [this](const QKeySequence& keys, void (BriefTable::*act)()) {
    auto* shortcut = new QShortcut(keys, table_);
    shortcut->setContext(Qt::WidgetShortcut);
    connect(shortcut, &QShortcut::activated, this, act);
  };
  key(QKeySequence::Copy, &BriefTable::copyCell);
  key(QKeySequence::Paste, &BriefTable::pasteIntoCells);
  side_ = new QScrollArea(this);
  side_->setObjectName("tableEditor");
  side_->setWidgetResizable(true);
  side_->setFixedWidth(330);
  side_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  side_->hide();
  auto* layout = new QHBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  layout->addWidget(table_, 1);
  layout->addWidget(side_);
  setFirstFocus(this, table_);
}

void BriefTable::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  model_->setLive(true);
}

void BriefTable::hideEvent(QHideEvent* event) {
  QWidget::hideEvent(event);
  model_->setLive(false);
}

std::vector<std::string> BriefTable::selectedIn(int column) const {
  std::vector<std::string> ids;
  for (const QModelIndex& index : table_->selectionModel()->selectedIndexes())
    if (index.column() == column) ids.push_back(model_->briefOf(index.row()));
  return ids;
}

/// Briefs whose cells are selected are those that edits change.
void BriefTable::chooseSelected() {
  const QModelIndex current = table_->currentIndex();
  if (!current.isValid()) return;
  std::vector<std::string> ids = selectedIn(current.column());
  const std::string id = model_->briefOf(current.row());
  if (std::find(ids.begin(), ids.end(), id) != ids.end()) work_.briefs().choose(id, ids);
}

/// Return, or a double click, in a cell.
void BriefTable::openEditor(const QModelIndex& index) {
  closeEditor();
  chooseSelected();
  const PhraseKind kind = model_->phraseOf(index.column());
  if (index.column() == BriefTableModel::On) {
    const std::string id = model_->briefOf(index.row());
    return work_.briefs().setTicked(id, !work_.briefs().isTicked(id));
  }
  editor_ = makePhraseEditor(kind, work_, side_);
  if (editor_ == nullptr) return;
  connect(editor_, &PhraseEditor::done, this, [this] {
    closeEditor();
    table_->setFocus(Qt::OtherFocusReason);
  });
  side_->setWidget(editor_);
  side_->show();
  table_->scrollTo(index);
  if (QWidget* first = firstFocusOf(editor_)) first->setFocus(Qt::OtherFocusReason);
}

void BriefTable::closeEditor() {
  if (editor_ == nullptr) return;
  side_->hide();
  side_->takeWidget()->deleteLater();
  editor_ = nullptr;
}

void BriefTable::follow() {
  if (editor_ != nullptr && work_.briefs().current() == nullptr) return closeEditor();
  if (editor_ != nullptr) editor_->refresh();
}

/// What a cell says, for other briefs.
void BriefTable::copyCell() {
  const QModelIndex index = table_->currentIndex();
  const PhraseKind kind = index.isValid() ? model_->phraseOf(index.column()) : PhraseKind::Plain;
  if (kind == PhraseKind::Plain) return;
  for (const Brief& brief : work_.session()->briefs)
    if (brief.id == model_->briefOf(index.row())) {
      copied_ = writePreset(presetOf(brief, kind, "copied"));
      work_.news().say(tr("Copied: %1").arg(index.data().toString()));
    }
}

void BriefTable::pasteIntoCells() {
  const auto preset = readPreset(copied_);
  const QModelIndex index = table_->currentIndex();
  if (!preset || !index.isValid()) return;
  if (preset->phrase != phraseInfo(model_->phraseOf(index.column())).name)
    return work_.news().say(tr("What was copied belongs into another column"));
  const std::vector<std::string> ids = selectedIn(index.column());
  work_.document().editBriefs(ids, tr("Paste into %1").arg(text(counted(ids.size(), "brief"))),
                              [&](Brief& brief) { (void)usePreset(brief, *preset); });
}

}  // namespace octaphon::app
