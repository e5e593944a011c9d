#include "briefs_panel.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QMouseEvent>
#include <QPainter>
#include <QStyledItemDelegate>
#include <QToolButton>
#include <QVBoxLayout>

#include "icons.h"
#include "text.h"
#include "theme.h"

namespace octaphon::app {
namespace {

constexpr int kFilesRole = Qt::UserRole + 1;

/// Tick, name, and the number of files to the right; an accent bar at the current one.
class BriefDelegate : public QStyledItemDelegate {
 public:
  using QStyledItemDelegate::QStyledItemDelegate;

  QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    return {120, std::max(26, QStyledItemDelegate::sizeHint(option, index).height())};
  }

  void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    const bool current = option.state & QStyle::State_Selected;
    if (current) {
      painter->fillRect(option.rect, colour(Role::Selection));
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

BriefsPanel::BriefsPanel(Document& document, QWidget* parent) : QWidget(parent), document_(document) {
  setObjectName("pane");
  layOut();
  connectAll();
}

void BriefsPanel::layOut() {
  auto* title = new QLabel(tr("BRIEFS"), this);
  title->setFont(Theme::heading());
  auto* head = new QHBoxLayout;
  head->setContentsMargins(16, 8, 8, 2);
  head->addWidget(title);
  head->addStretch();
  const auto button = [&](const char* name, const QString& tip, void (BriefsPanel::*action)()) {
    auto* tool = new QToolButton(this);
    tool->setToolTip(tip);
    tool->setAccessibleName(tip);
    head->addWidget(tool);
    connect(tool, &QToolButton::clicked, this, action);
    keepIcon(tool, name);
  };
  button("add", tr("New brief"), &BriefsPanel::addBrief);
  button("copy", tr("Duplicate the brief"), &BriefsPanel::duplicateBrief);
  button("remove", tr("Delete the brief"), &BriefsPanel::removeBrief);

  list_ = new BriefList(this);
  list_->setObjectName("briefs");
  list_->setAccessibleName(tr("Briefs"));
  list_->setModel(&model_);
  list_->setItemDelegate(new BriefDelegate(list_));
  list_->setEditTriggers(QAbstractItemView::EditKeyPressed | QAbstractItemView::DoubleClicked);
  list_->setMinimumHeight(30);
  list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  list_->setToolTip(tr("Return ticks, F2 renames"));
  sentence_ = new SentenceView(this);
  auto* scroll = new QScrollArea(this);
  scroll->setWidgetResizable(true);
  scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  scroll->setWidget(sentence_);
  scroll->setFocusPolicy(Qt::NoFocus);
  auto* nothing = new QLabel(tr("A brief says which files to make.\nStart one with +"), this);
  nothing->setAlignment(Qt::AlignHCenter | Qt::AlignTop);
  nothing->setMargin(24);
  pages_ = new QStackedWidget(this);
  pages_->addWidget(nothing);
  pages_->addWidget(scroll);

  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  layout->addLayout(head);
  layout->addWidget(list_);
  layout->addWidget(pages_, 1);
}

void BriefsPanel::connectAll() {
  connect(&document_, &Document::opened, this, [this] {
    tickedById_.clear();
    list_->setCurrentIndex({});
    reload();
  });
  connect(&document_, &Document::changed, this, [this](unsigned parts) {
    if ((parts & kBriefs) != 0)
      reload();
    else
      showCurrent();
  });
  connect(list_->selectionModel(), &QItemSelectionModel::currentChanged, this, [this] { showCurrent(); });
  connect(&model_, &QStandardItemModel::itemChanged, this, [this](QStandardItem* item) {
    const auto index = static_cast<std::size_t>(item->row());
    if (loading_ || index >= document_.session()->briefs.size()) return;
    Brief brief = document_.session()->briefs[index];
    const bool ticked = item->checkState() == Qt::Checked;
    const auto before = tickedById_.find(brief.id);
    if (before == tickedById_.end() || before->second != ticked) {
      tickedById_[brief.id] = ticked;
      emit tickedChanged();
    }
    if (item->text() == text(brief.name)) return;
    brief.name = item->text().toStdString();
    document_.editBrief(index, brief, tr("Rename brief"));
  });
  connect(sentence_, &SentenceView::briefEdited, this,
          [this](const Brief& brief, const QString& words, const QString& merge) {
            if (current() >= 0)
              document_.editBrief(static_cast<std::size_t>(current()), brief, words,
                                  merge.isEmpty() ? merge : merge + text(brief.id));
          });
}

int BriefsPanel::current() const { return list_->currentIndex().row(); }

void BriefsPanel::setCurrent(int index) { list_->setCurrentIndex(model_.index(index, 0)); }

std::vector<std::size_t> BriefsPanel::ticked() const {
  std::vector<std::size_t> result;
  const auto& briefs = document_.session()->briefs;
  for (std::size_t i = 0; i < briefs.size(); ++i) {
    const auto found = tickedById_.find(briefs[i].id);
    if (found == tickedById_.end() || found->second) result.push_back(i);
  }
  return result;
}

void BriefsPanel::reload() {
  const auto& briefs = document_.session()->briefs;
  const int before = current();
  const auto count = static_cast<int>(briefs.size());
  {
    loading_ = true;
    model_.setColumnCount(1);
    model_.setRowCount(count);
    for (int i = 0; i < count; ++i) {
      const Brief& brief = briefs[static_cast<std::size_t>(i)];
      if (model_.item(i) == nullptr) model_.setItem(i, new QStandardItem);
      model_.item(i)->setText(text(brief.name));
      model_.item(i)->setCheckable(true);
      const auto ticked = tickedById_.find(brief.id);
      model_.item(i)->setCheckState(ticked == tickedById_.end() || ticked->second ? Qt::Checked
                                                                                  : Qt::Unchecked);
    }
    loading_ = false;
  }
  list_->setFixedHeight(std::clamp(count, 1, 9) * 26 + 8);
  if (count > 0) setCurrent(std::clamp(before, 0, count - 1));
  showCurrent();
}

void BriefsPanel::showCurrent() {
  const int index = current();
  pages_->setCurrentIndex(index >= 0 ? 1 : 0);
  if (index >= 0)
    sentence_->setBrief(document_.session()->briefs[static_cast<std::size_t>(index)], document_.session());
  emit currentChanged(index);
}

void BriefsPanel::setSheet(const Sheet& sheet) {
  std::map<std::string, std::size_t> files;
  for (const PlannedBrief& brief : sheet.briefs) files[brief.brief.id] = brief.rowCount;
  loading_ = true;
  const auto& briefs = document_.session()->briefs;
  for (int i = 0; i < model_.rowCount() && static_cast<std::size_t>(i) < briefs.size(); ++i) {
    const auto found = files.find(briefs[static_cast<std::size_t>(i)].id);
    model_.item(i)->setData(found == files.end() ? QString() : QString::number(found->second), kFilesRole);
  }
  loading_ = false;
  if (current() >= 0) sentence_->setSheet(sheet);
}

void BriefsPanel::addBrief() {
  if (!document_.isOpen()) return;
  Brief brief;
  brief.name = tr("Brief %1").arg(document_.session()->briefs.size() + 1).toStdString();
  setCurrent(static_cast<int>(document_.addBrief(brief, tr("New brief"))));
}

void BriefsPanel::duplicateBrief() {
  if (current() < 0) return;
  Brief brief = document_.session()->briefs[static_cast<std::size_t>(current())];
  brief.name += tr(" copy").toStdString();
  setCurrent(static_cast<int>(document_.addBrief(brief, tr("Duplicate brief"))));
}

void BriefsPanel::removeBrief() {
  if (current() >= 0) document_.removeBrief(static_cast<std::size_t>(current()), tr("Delete brief"));
}

}  // namespace octaphon::app
