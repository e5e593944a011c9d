#include "app/brief/briefs_panel.h"

#include <algorithm>
#include <map>
#include <QHBoxLayout>
#include <QLabel>
#include <QMouseEvent>
#include <QPainter>
#include <QStyledItemDelegate>
#include <QTimer>
#include <QToolButton>
#include <QVBoxLayout>

#include "app/look/icons.h"
#include "app/look/session_undo.h"
#include "app/look/theme.h"
#include "app/work/text.h"

namespace octaphon::app {
namespace {

constexpr int kFilesRole = Qt::UserRole + 1;
constexpr int kIdRole = Qt::UserRole + 2;
constexpr int kRowHeight = 26;
constexpr int kMostShown = 9;  // briefs, before the list scrolls

/// Tick, name, and the number of files to the right; an accent bar at the current one.
class BriefDelegate : public QStyledItemDelegate {
 public:
  using QStyledItemDelegate::QStyledItemDelegate;

  QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    return {120, std::max(kRowHeight, QStyledItemDelegate::sizeHint(option, index).height())};
  }

  void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    const bool chosen = option.state & QStyle::State_Selected;
    const auto* list = qobject_cast<const QAbstractItemView*>(option.widget);
    const bool current = list != nullptr && list->currentIndex() == index;
    if (chosen) painter->fillRect(option.rect, colour(Role::Selection));
    if (current) {
      painter->fillRect(QRect(option.rect.left(), option.rect.top(), 3, option.rect.height()),
                        colour(Role::Accent));
    }
    const QRect box = tickRect(option.rect);
    const bool ticked = index.data(Qt::CheckStateRole).toInt() == Qt::Checked;
    painter->setPen(colour(ticked ? Role::Accent : Role::Frame));
    painter->setBrush(ticked ? colour(Role::Accent) : colour(Role::Sheet));
    painter->drawRect(box.adjusted(0, 0, -1, -1));
    if (ticked) painter->drawPixmap(box.adjusted(0, 0, -1, -1), pixmap("check", Role::OnAccent, 12));
    painter->setFont(current ? Theme::strong() : Theme::body());
    painter->setPen(colour(Role::Ink));
    const QRect name = option.rect.adjusted(38, 0, -56, 0);
    painter->drawText(
        name, Qt::AlignVCenter,
        painter->fontMetrics().elidedText(index.data().toString(), Qt::ElideRight, name.width()));
    painter->setFont(Theme::body());
    painter->setPen(colour(Role::SecondInk));
    painter->drawText(option.rect.adjusted(0, 0, -14, 0), Qt::AlignVCenter | Qt::AlignRight,
                      index.data(kFilesRole).toString());
  }

  bool editorEvent(QEvent* event, QAbstractItemModel* model, const QStyleOptionViewItem& option,
                   const QModelIndex& index) override {
    if (event->type() == QEvent::MouseButtonPress || event->type() == QEvent::MouseButtonRelease ||
        event->type() == QEvent::MouseButtonDblClick) {
      if (!tickRect(option.rect).adjusted(-8, -6, 4, 6).contains(static_cast<QMouseEvent*>(event)->pos()))
        return false;
      if (event->type() == QEvent::MouseButtonRelease) toggle(model, index);
      return true;
    }
    return QStyledItemDelegate::editorEvent(event, model, option, index);
  }

  static void toggle(QAbstractItemModel* model, const QModelIndex& index) {
    const bool ticked = index.data(Qt::CheckStateRole).toInt() == Qt::Checked;
    model->setData(index, ticked ? Qt::Unchecked : Qt::Checked, Qt::CheckStateRole);
  }

 private:
  static QRect tickRect(const QRect& row) {
    return {row.left() + 16, row.top() + (row.height() - 13) / 2, 13, 13};
  }
};

/// A list where Return, not Space, ticks: Space plays.
class BriefList : public QListView {
 public:
  using QListView::QListView;

 protected:
  void keyPressEvent(QKeyEvent* event) override {
    const bool returned = event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter;
    if (returned && state() != EditingState && event->modifiers() == Qt::NoModifier &&
        currentIndex().isValid())
      BriefDelegate::toggle(model(), currentIndex());
    else
      QListView::keyPressEvent(event);
  }
};

}  // namespace

BriefsPanel::BriefsPanel(Work& work, Commands& commands, QWidget* parent)
    : QWidget(parent), work_(work), commands_(commands) {
  setObjectName("pane");
  makeList();
  makeSentence();
  makeNotes();
  makeTools();
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  layout->addWidget(list_);
  layout->addWidget(pages_, 1);
  auto* notes = new QVBoxLayout;
  notes->setContentsMargins(16, 4, 12, 10);
  notes->addWidget(notes_);
  layout->addLayout(notes);
  connectAll();
  reload();
}

void BriefsPanel::makeList() {
  list_ = new BriefList(this);
  list_->setObjectName("briefs");
  list_->setAccessibleName(tr("Briefs"));
  list_->setModel(&model_);
  list_->setItemDelegate(new BriefDelegate(list_));
  list_->setSelectionMode(QAbstractItemView::ExtendedSelection);
  list_->setEditTriggers(QAbstractItemView::EditKeyPressed | QAbstractItemView::DoubleClicked);
  list_->setMinimumHeight(30);
  list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  list_->setToolTip(tr("Return ticks, F2 renames; several that are selected are edited together"));
  commands_.listenIn(list_, {"brief.delete"});
}

void BriefsPanel::makeSentence() {
  sentence_ = new SentenceView(work_, this);
  auto* scroll = new QScrollArea(this);
  scroll->setWidgetResizable(true);
  scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  scroll->setWidget(sentence_);
  scroll->setFocusPolicy(Qt::NoFocus);
  connect(sentence_, &SentenceView::editorOpened, scroll, [scroll](QWidget* editor, QWidget* phrase) {
    QTimer::singleShot(0, editor, [scroll, editor, phrase] {
      scroll->ensureWidgetVisible(editor, 0, 12);
      scroll->ensureWidgetVisible(phrase, 0, 12);
    });
  });
  auto* nothing = new QLabel(tr("A brief says which files to make.\nStart one with +"), this);
  nothing->setAlignment(Qt::AlignHCenter | Qt::AlignTop);
  nothing->setMargin(24);
  pages_ = new QStackedWidget(this);
  pages_->addWidget(nothing);
  pages_->addWidget(scroll);
}

void BriefsPanel::makeNotes() {
  notes_ = new QPlainTextEdit(this);
  notes_->setObjectName("briefNotes");
  notes_->setPlaceholderText(tr("Notes on the brief"));
  notes_->setAccessibleName(tr("Notes on the brief"));
  notes_->setTabChangesFocus(true);
  notes_->setFixedHeight(46);
  useSessionUndo(notes_);
  connect(notes_, &QPlainTextEdit::textChanged, this, [this] {
    const Brief* brief = work_.briefs().current();
    if (isLoading_ || brief == nullptr) return;
    const std::string typed = notes_->toPlainText().toStdString();
    work_.document().editBriefs(
        {brief->id}, tr("Change notes"), [&](Brief& one) { one.notes = typed; },
        mergeKey("brief/notes", {brief->id}));
  });
}

void BriefsPanel::showNotes() {
  const Brief* brief = work_.briefs().current();
  notes_->setVisible(brief != nullptr);
  if (brief == nullptr || notes_->toPlainText() == text(brief->notes)) return;
  const bool wasLoading = std::exchange(isLoading_, true);
  notes_->setPlainText(text(brief->notes));
  isLoading_ = wasLoading;
}

void BriefsPanel::makeTools() {
  tools_ = new QWidget(this);
  auto* row = new QHBoxLayout(tools_);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(0);
  for (QAction* action : commands_.actions({"brief.new", "brief.duplicate", "brief.delete"})) {
    auto* button = new QToolButton(tools_);
    button->setDefaultAction(action);
    button->setToolButtonStyle(Qt::ToolButtonIconOnly);
    button->setAccessibleName(Commands::title(*action));
    row->addWidget(button);
  }
}

void BriefsPanel::connectAll() {
  connect(&work_.document(), &Document::opened, this, &BriefsPanel::reload);
  connect(&work_.document(), &Document::changed, this, [this](unsigned parts) {
    if ((parts & kBriefs) != 0) reload();
  });
  connect(&work_.briefs(), &BriefChoice::changed, this, &BriefsPanel::showChoice);
  connect(&work_.sheets(), &SheetKeeper::sheetChanged, this, &BriefsPanel::showCounts);
  connect(list_->selectionModel(), &QItemSelectionModel::selectionChanged, this, &BriefsPanel::takeChoice);
  connect(list_->selectionModel(), &QItemSelectionModel::currentChanged, this, &BriefsPanel::takeChoice);
  connect(&model_, &QStandardItemModel::itemChanged, this, &BriefsPanel::itemChanged);
}

/// A tick, or a name that was typed.
void BriefsPanel::itemChanged(QStandardItem* item) {
  if (isLoading_) return;
  const std::string id = item->data(kIdRole).toString().toStdString();
  work_.briefs().setTicked(id, item->checkState() == Qt::Checked);
  const std::string name = item->text().toStdString();
  work_.document().editBriefs({id}, tr("Rename brief"), [&](Brief& brief) { brief.name = name; });
}

void BriefsPanel::reload() {
  const auto& briefs = work_.session()->briefs;
  const auto count = static_cast<int>(briefs.size());
  isLoading_ = true;
  model_.setColumnCount(1);
  model_.setRowCount(count);
  for (int i = 0; i < count; ++i) {
    const Brief& brief = briefs[static_cast<std::size_t>(i)];
    if (model_.item(i) == nullptr) model_.setItem(i, new QStandardItem);
    QStandardItem* item = model_.item(i);
    item->setText(text(brief.name));
    item->setData(text(brief.id), kIdRole);
    item->setCheckable(true);
    item->setCheckState(work_.briefs().isTicked(brief.id) ? Qt::Checked : Qt::Unchecked);
  }
  isLoading_ = false;
  list_->setFixedHeight(std::clamp(count, 1, kMostShown) * kRowHeight + 8);
  showCounts();
  showChoice();
  showNotes();
}

void BriefsPanel::showCounts() {
  std::map<std::string, std::size_t> files;
  for (const PlannedBrief& brief : work_.sheets().sheet()->briefs) files[brief.brief.id] = brief.rowCount;
  isLoading_ = true;
  for (int i = 0; i < model_.rowCount(); ++i) {
    const auto found = files.find(model_.item(i)->data(kIdRole).toString().toStdString());
    model_.item(i)->setData(found == files.end() ? QString() : QString::number(found->second), kFilesRole);
  }
  isLoading_ = false;
}

void BriefsPanel::showChoice() {
  pages_->setCurrentIndex(work_.briefs().current() == nullptr ? 0 : 1);
  showNotes();
  if (isLoading_) return;
  isLoading_ = true;
  const std::vector<std::string> chosen = work_.briefs().chosen();
  QItemSelection selection;
  QModelIndex current;
  for (int i = 0; i < model_.rowCount(); ++i) {
    const std::string id = model_.item(i)->data(kIdRole).toString().toStdString();
    const QModelIndex index = model_.index(i, 0);
    if (std::find(chosen.begin(), chosen.end(), id) != chosen.end()) selection.select(index, index);
    if (id == work_.briefs().currentId()) current = index;
  }
  if (list_->currentIndex() != current)
    list_->selectionModel()->setCurrentIndex(current, QItemSelectionModel::NoUpdate);
  list_->selectionModel()->select(selection, QItemSelectionModel::ClearAndSelect);
  isLoading_ = false;
}

/// While a click is worked through, what is current may not be selected yet; where it stays so, another one
/// is.
void BriefsPanel::takeChoice() {
  const QModelIndex current = list_->currentIndex();
  if (isLoading_ || !current.isValid()) return;
  if (!list_->selectionModel()->isSelected(current))
    return QTimer::singleShot(0, this, [this] { settleChoice(); });
  choose(current);
}

void BriefsPanel::settleChoice() {
  const QModelIndexList selected = list_->selectionModel()->selectedIndexes();
  if (selected.isEmpty())
    showChoice();
  else if (!selected.contains(list_->currentIndex()))
    choose(selected.front());
}

void BriefsPanel::choose(const QModelIndex& current) {
  std::vector<std::string> ids;
  for (const QModelIndex& index : list_->selectionModel()->selectedIndexes())
    ids.push_back(index.data(kIdRole).toString().toStdString());
  isLoading_ = true;  // it shows already what is chosen
  work_.briefs().choose(current.data(kIdRole).toString().toStdString(), ids);
  isLoading_ = false;
}

}  // namespace octaphon::app
