#include "app/prepare/names_panel.h"

#include <QApplication>
#include <QClipboard>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QStyledItemDelegate>
#include <QVBoxLayout>

#include "app/look/first_focus.h"
#include "app/look/flow_layout.h"
#include "app/look/theme.h"
#include "app/work/text.h"
#include "base/unicode.h"
#include "brief/editing.h"

namespace octaphon::app {
namespace {

/// Tab ends a name and opens the next one below; Shift+Tab the one above. What has a few values is chosen
/// from a list.
class NameDelegate : public QStyledItemDelegate {
 public:
  using QStyledItemDelegate::QStyledItemDelegate;

  QWidget* createEditor(QWidget* parent, const QStyleOptionViewItem& option,
                        const QModelIndex& index) const override {
    const QStringList choices = index.data(kChoicesRole).toStringList();
    if (choices.isEmpty()) return QStyledItemDelegate::createEditor(parent, option, index);
    auto* box = new QComboBox(parent);
    box->addItems(choices);
    connect(box, &QComboBox::activated, this, [this, box] {
      emit const_cast<NameDelegate*>(this)->commitData(box);
      emit const_cast<NameDelegate*>(this)->closeEditor(box);
    });
    return box;
  }
  void setEditorData(QWidget* editor, const QModelIndex& index) const override {
    if (auto* box = qobject_cast<QComboBox*>(editor))
      box->setCurrentIndex(index.data(Qt::EditRole).toInt());
    else
      QStyledItemDelegate::setEditorData(editor, index);
  }
  void setModelData(QWidget* editor, QAbstractItemModel* model, const QModelIndex& index) const override {
    if (auto* box = qobject_cast<QComboBox*>(editor))
      model->setData(index, box->currentIndex());
    else
      QStyledItemDelegate::setModelData(editor, model, index);
  }

 protected:
  bool eventFilter(QObject* object, QEvent* event) override {
    if (event->type() == QEvent::KeyPress) {
      const auto* key = static_cast<QKeyEvent*>(event);
      if (key->key() == Qt::Key_Tab || key->key() == Qt::Key_Backtab) {
        auto* editor = qobject_cast<QWidget*>(object);
        auto* table = qobject_cast<QTableView*>(parent());
        const int row = table->currentIndex().row() + (key->key() == Qt::Key_Tab ? 1 : -1);
        emit commitData(editor);
        emit closeEditor(editor, NoHint);
        const QModelIndex next = table->model()->index(row, table->currentIndex().column());
        if (next.isValid()) {
          table->setCurrentIndex(next);
          table->edit(next);
        }
        return true;
      }
    }
    return QStyledItemDelegate::eventFilter(object, event);
  }
};

Thing thingOf(NamedKind kind) {
  switch (kind) {
    case NamedKind::Region: return Thing::Region;
    case NamedKind::ClipSet: return Thing::ClipSet;
    case NamedKind::Track: return Thing::Track;
    case NamedKind::Clip: return Thing::Clip;
  }
  return Thing::Region;
}

}  // namespace

NamesPanel::NamesPanel(Work& work, QWidget* parent)
    : QWidget(parent), document_(work.document()), selected_(work.selected()) {
  setObjectName("pane");
  connect(&work, &Work::nameWanted, this, &NamesPanel::startNaming);
  makeControls();
  makeTable();
  layOut();
  connectControls();
}

void NamesPanel::makeControls() {
  const auto combo = [this](const QStringList& items, const QString& name) {
    auto* box = new QComboBox(this);
    box->addItems(items);
    box->setAccessibleName(name);
    return box;
  };
  const auto line = [this](const QString& hint) {
    auto* field = new QLineEdit(this);
    field->setPlaceholderText(hint);
    field->setAccessibleName(hint);
    field->setFixedWidth(120);
    field->setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
    return field;
  };
  const auto number = [this](int least, int most, int value, const QString& name) {
    auto* box = new QSpinBox(this);
    box->setRange(least, most);
    box->setValue(value);
    box->setPrefix(name + " ");
    box->setAccessibleName(name);
    return box;
  };
  kind_ = combo({tr("Regions"), tr("Clip sets"), tr("Tracks"), tr("Clips")}, tr("What is named"));
  filter_ = line(tr("filter"));
  filter_->setClearButtonEnabled(true);
  step_ = combo(
      {tr("replace"), tr("replace by pattern"), tr("trim spaces"), tr("letter case"), tr("put in front"),
       tr("put behind"), tr("number"), tr("close gaps in numbers"), tr("take from tracks and groups")},
      tr("Step"));
  step_->setObjectName("renameStep");
  find_ = line(tr("find"));
  find_->setObjectName("renameFind");
  with_ = line(tr("with"));
  with_->setObjectName("renameWith");
  case_ = combo({}, tr("Letter case"));
  for (const Choice<LetterCase>& choice : kChoices<LetterCase>) case_->addItem(text(choice.name));
  first_ = number(0, 99999, 1, tr("from"));
  digits_ = number(1, 6, 2, tr("digits"));
  ignoreCase_ = new QCheckBox(tr("any case"), this);
  onlyDefault_ = new QCheckBox(tr("only names not given yet"), this);
  kind_->setToolTip(tr("Type to rename, Tab goes to the next; Ctrl+V pastes a column"));
  step_->setToolTip(
      tr("What is done to the selected names, or to all that are shown where one or none is selected"));
  find_->setToolTip(tr("In patterns, brackets make groups"));
  with_->setToolTip(tr("In patterns, $1 is the first group"));
  onlyDefault_->setToolTip(tr("Leaves every name alone that someone has given"));
  rename_ = new QPushButton(tr("Rename"), this);
  rename_->setObjectName("make");
  outcome_ = new QLabel(this);
  outcome_->setFont(Theme::caption());
  outcome_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  outcome_->setWordWrap(true);
}

void NamesPanel::makeTable() {
  table_ = new QTableView(this);
  table_->setObjectName("names");
  table_->setAccessibleName(tr("Names"));
  model_ = new NamesModel(document_, this);
  table_->setModel(model_);
  table_->setItemDelegate(new NameDelegate(table_));
  table_->verticalHeader()->hide();
  table_->verticalHeader()->setDefaultSectionSize(24);
  table_->setShowGrid(false);
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed |
                          QAbstractItemView::AnyKeyPressed);
  table_->setTabKeyNavigation(false);
  connect(model_, &NamesModel::modelReset, this, &NamesPanel::fitColumns);
  table_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  table_->installEventFilter(this);
}

/// Names alone share the width; with more behind them, all have room, and the table scrolls.
void NamesPanel::fitColumns() {
  constexpr int kNameWidths[]{230, 150, 110}, kEndWidth = 112;
  QHeaderView* header = table_->horizontalHeader();
  const bool isWide = model_->columnCount() > NamesModel::kColumns;
  header->setSectionResizeMode(isWide ? QHeaderView::Interactive : QHeaderView::Stretch);
  for (int column = 0; isWide && column < model_->columnCount(); ++column)
    table_->setColumnWidth(column, column < NamesModel::kColumns ? kNameWidths[column] : kEndWidth);
}

void NamesPanel::layOut() {
  auto* fields = new QWidget(this);
  auto* top = new FlowLayout(fields, 8);
  QSizePolicy policy(QSizePolicy::Preferred, QSizePolicy::Fixed);
  policy.setHeightForWidth(true);
  fields->setSizePolicy(policy);
  for (QWidget* widget :
       {static_cast<QWidget*>(kind_), static_cast<QWidget*>(filter_), static_cast<QWidget*>(step_),
        static_cast<QWidget*>(find_), static_cast<QWidget*>(with_), static_cast<QWidget*>(case_),
        static_cast<QWidget*>(first_), static_cast<QWidget*>(digits_)})
    top->addWidget(widget);
  auto* second = new QHBoxLayout;
  second->setSpacing(12);
  second->addWidget(ignoreCase_);
  second->addWidget(onlyDefault_);
  second->addWidget(outcome_, 1);
  second->addWidget(rename_);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(14, 8, 14, 0);
  layout->setSpacing(6);
  layout->addWidget(fields);
  layout->addLayout(second);
  layout->addWidget(table_, 1);
}

void NamesPanel::connectControls() {
  timer_.setSingleShot(true);
  timer_.setInterval(30);
  connect(&timer_, &QTimer::timeout, this, &NamesPanel::reload);
  const auto later = [this] { timer_.start(); };
  for (QComboBox* box : {kind_, step_, case_}) connect(box, &QComboBox::currentIndexChanged, this, later);
  for (QLineEdit* field : {filter_, find_, with_}) connect(field, &QLineEdit::textChanged, this, later);
  for (QSpinBox* box : {first_, digits_}) connect(box, &QSpinBox::valueChanged, this, later);
  for (QCheckBox* box : {ignoreCase_, onlyDefault_}) connect(box, &QCheckBox::toggled, this, later);
  connect(&document_, &Document::changed, this, later);
  connect(&document_, &Document::opened, this, later);
  setFirstFocus(this, table_);
  connect(rename_, &QPushButton::clicked, this, &NamesPanel::rename);
  connect(table_->horizontalHeader(), &QHeaderView::sectionClicked, this, [this](int section) {
    if (section != NamesModel::Name) return;
    order_ = sorted_ && order_ == Qt::AscendingOrder ? Qt::DescendingOrder : Qt::AscendingOrder;
    sorted_ = true;
    reload();
  });
  table_->horizontalHeader()->setSectionsClickable(true);
  connect(table_->selectionModel(), &QItemSelectionModel::selectionChanged, this, [this] {
    if (loading_) return;
    Ids ids;
    const QModelIndexList rows = table_->selectionModel()->selectedRows();
    for (const QModelIndex& row : rows) ids.insert(model_->things()[static_cast<std::size_t>(row.row())].id);
    const Ids there = idsOf(*document_.session());  // the table may be a moment behind
    eraseIf(ids, [&](const std::string& id) { return !there.contains(id); });
    if (!ids.empty()) selected_.set(thingOf(kind()), std::move(ids));
    timer_.start();
  });
  reload();
}

void NamesPanel::setKind(NamedKind kind) {
  kind_->setCurrentIndex(static_cast<int>(kind));
  reload();
}

void NamesPanel::setRequest(const RenameRequest& request) {
  step_->setCurrentIndex(static_cast<int>(request.step));
  find_->setText(text(request.find));
  with_->setText(text(request.with));
  ignoreCase_->setChecked(request.ignoreCase);
  onlyDefault_->setChecked(request.onlyDefault);
  case_->setCurrentText(text(nameOf(request.letterCase)));
  first_->setValue(request.first);
  digits_->setValue(request.digits);
  reload();
}

RenameRequest NamesPanel::request() const {
  RenameRequest request;
  request.step = static_cast<RenameStep>(step_->currentIndex());
  request.find = find_->text().toStdString();
  request.with = with_->text().toStdString();
  request.ignoreCase = ignoreCase_->isChecked();
  request.onlyDefault = onlyDefault_->isChecked();
  request.letterCase =
      kChoices<LetterCase>[static_cast<std::size_t>(std::max(0, case_->currentIndex()))].value;
  request.first = first_->value();
  request.digits = digits_->value();
  return request;
}

void NamesPanel::fitFields() {
  const auto step = static_cast<RenameStep>(step_->currentIndex());
  const bool replaces = step == RenameStep::Replace || step == RenameStep::ReplacePattern;
  find_->setVisible(replaces);
  ignoreCase_->setVisible(replaces);
  with_->setVisible(replaces || step == RenameStep::Prefix || step == RenameStep::Suffix);
  case_->setVisible(step == RenameStep::Case);
  first_->setVisible(step == RenameStep::Number);
  digits_->setVisible(step == RenameStep::Number);
}

/// The rows selected where several are, else all that are shown.
std::vector<NamedThing> NamesPanel::chosen() const {
  const auto& things = model_->things();
  const QModelIndexList rows = table_->selectionModel()->selectedRows();
  if (rows.size() < 2) return things;
  std::vector<int> order;
  for (const QModelIndex& row : rows) order.push_back(row.row());
  std::sort(order.begin(), order.end());
  std::vector<NamedThing> chosen;
  chosen.reserve(order.size());
  for (const int row : order) chosen.push_back(things[static_cast<std::size_t>(row)]);
  return chosen;
}

/// Of all things of the kind that is shown.
Ids NamesPanel::idsOf(const Session& session) const {
  Ids ids;
  for (const NamedThing& thing : namedThings(session, kind())) ids.insert(thing.id);
  return ids;
}

/// What was selected in the table stays so, wherever it stands now.
void NamesPanel::showThings(std::vector<NamedThing> things) {
  Ids chosen;
  std::string current;
  const auto idAt = [this](const QModelIndex& index) {
    return model_->things()[static_cast<std::size_t>(index.row())].id;
  };
  for (const QModelIndex& row : table_->selectionModel()->selectedRows()) chosen.insert(idAt(row));
  if (table_->currentIndex().isValid()) current = idAt(table_->currentIndex());
  loading_ = true;
  model_->show(std::move(things), {});
  if (!table_->selectionModel()->hasSelection() && !(chosen.empty() && current.empty())) {
    QItemSelection selection;
    for (int row = 0; row < model_->rowCount(); ++row) {
      const QModelIndex index = model_->index(row, NamesModel::Name);
      if (chosen.contains(idAt(index))) selection.select(index, index);
      if (idAt(index) == current)
        table_->selectionModel()->setCurrentIndex(index, QItemSelectionModel::NoUpdate);
    }
    table_->selectionModel()->select(selection,
                                     QItemSelectionModel::ClearAndSelect | QItemSelectionModel::Rows);
  }
  loading_ = false;
}

/// Opens the name of the first thing that is selected.
void NamesPanel::startNaming(Thing thing) {
  static const std::map<Thing, NamedKind> kinds{{Thing::Region, NamedKind::Region},
                                                {Thing::ClipSet, NamedKind::ClipSet},
                                                {Thing::Track, NamedKind::Track},
                                                {Thing::Clip, NamedKind::Clip}};
  const auto kind = kinds.find(thing);
  if (kind == kinds.end()) return;
  const Ids ids = selected_.of(thing);
  setKind(kind->second);
  const auto& things = model_->things();
  for (std::size_t i = 0; i < things.size(); ++i) {
    if (!ids.contains(things[i].id)) continue;
    const QModelIndex index = model_->index(static_cast<int>(i), NamesModel::Name);
    table_->setCurrentIndex(index);
    table_->setFocus();
    table_->edit(index);
    return;
  }
}

void NamesPanel::reload() {
  fitFields();
  if (!isVisible()) return;
  if (table_->viewport()->findChild<QLineEdit*>() != nullptr) return timer_.start();  // a name is being typed
  const auto session = document_.session();
  std::vector<NamedThing> things = namedThings(*session, kind());
  const std::string wanted = foldedName(filter_->text().toStdString());
  std::erase_if(things, [&](const NamedThing& thing) {
    return !wanted.empty() && foldedName(thing.name).find(wanted) == std::string::npos;
  });
  if (sorted_)
    std::stable_sort(things.begin(), things.end(), [&](const NamedThing& a, const NamedThing& b) {
      const int order = naturalCompare(a.name, b.name);
      return order_ == Qt::AscendingOrder ? order < 0 : order > 0;
    });
  showThings(things);
  const std::vector<NamedThing> asked = chosen();
  const auto preview = previewRename(*session, asked, request());
  std::size_t changes = 0;
  std::vector<Renaming> shown;
  const bool asksNothing = request().step == RenameStep::Replace && request().find.empty();
  if (preview && !asksNothing) {
    std::unordered_map<std::string, const Renaming*> byId;
    for (const Renaming& renaming : *preview) {
      byId[renaming.thing.id] = &renaming;
      changes += renaming.skipped.empty() ? 1 : 0;
    }
    for (const NamedThing& thing : things) {
      const auto found = byId.find(thing.id);
      shown.push_back(found == byId.end() ? Renaming{thing, thing.name, "not selected"} : *found->second);
    }
  }
  loading_ = true;
  model_->show(std::move(things), std::move(shown));
  loading_ = false;
  rename_->setText(tr("Rename %1").arg(wordOf(thingOf(kind()), changes)));
  rename_->setEnabled(changes > 0);
  if (preview && asksNothing)
    outcome_->setText(tr("Type, Tab to the next; or find and replace in all that are shown"));
  else
    outcome_->setText(preview ? tr("%1 of %2 stay as they are").arg(asked.size() - changes).arg(asked.size())
                              : text(preview.error().describe()));
  QPalette palette = outcome_->palette();
  palette.setColor(QPalette::WindowText, colour(preview ? Role::SecondInk : Role::Fault));
  outcome_->setPalette(palette);
}

std::size_t NamesPanel::rename() {
  const auto preview = previewRename(*document_.session(), chosen(), request());
  if (!preview) return 0;
  EditCount count;
  const auto changes = static_cast<std::size_t>(std::count_if(
      preview->begin(), preview->end(), [](const Renaming& renaming) { return renaming.skipped.empty(); }));
  document_.edit(tr("Rename %1").arg(wordOf(thingOf(kind()), changes)),
                 [&](Session& session) { count = applyNames(session, *preview); });
  return count.changed;
}

void NamesPanel::paste(const QString& lines) {
  QStringList names = QString(lines).remove('\r').split('\n');
  while (!names.isEmpty() && names.last().isEmpty()) names.removeLast();
  if (table_->currentIndex().column() >= NamesModel::kColumns)
    return model_->pasteOwnEnds(table_->currentIndex(), names);
  std::vector<Renaming> renamings;
  const auto& things = model_->things();
  const auto first = static_cast<std::size_t>(std::max(0, table_->currentIndex().row()));
  for (qsizetype i = 0; i < names.size() && first + static_cast<std::size_t>(i) < things.size(); ++i)
    renamings.push_back(
        {things[first + static_cast<std::size_t>(i)], names[i].section('\t', 0, 0).toStdString(), {}});
  document_.edit(tr("Paste %1").arg(text(counted(renamings.size(), "name"))),
                 [&](Session& session) { applyNames(session, renamings); });
}

bool NamesPanel::eventFilter(QObject* watched, QEvent* event) {
  if (watched == table_ && event->type() == QEvent::KeyPress) {
    auto* key = static_cast<QKeyEvent*>(event);
    if (key->matches(QKeySequence::Paste)) {
      paste(QApplication::clipboard()->text());
      return true;
    }
    if (key->matches(QKeySequence::Copy)) {
      QStringList names;
      const QModelIndexList rows = table_->selectionModel()->selectedRows();
      const int column = std::max(0, table_->currentIndex().column());
      for (const QModelIndex& row : rows)
        names << row.siblingAtColumn(column)
                     .data(column == NamesModel::Name ? Qt::EditRole : Qt::DisplayRole)
                     .toString();
      QApplication::clipboard()->setText(names.join('\n'));
      return true;
    }
    if (key->key() == Qt::Key_Return && table_->currentIndex().isValid()) {
      const bool isEnd = table_->currentIndex().column() >= NamesModel::kColumns;
      table_->edit(isEnd ? table_->currentIndex() : table_->currentIndex().siblingAtColumn(NamesModel::Name));
      return true;
    }
  }
  return QWidget::eventFilter(watched, event);
}

void NamesPanel::showEvent(QShowEvent*) { timer_.start(); }

}  // namespace octaphon::app
