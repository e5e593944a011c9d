#include "app/delivery/folder_panel.h"

#include <QAction>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QScrollBar>
#include <QVBoxLayout>

#include "app/look/first_focus.h"
#include "app/look/theme.h"
#include "app/work/text.h"
#include "base/unicode.h"

namespace octaphon::app {
namespace {

enum FolderColumn { FolderFile, FolderDetail, FolderFolder, FolderColumns };
constexpr int kKeyRole = Qt::UserRole, kTitleRole = Qt::UserRole + 1;

QTreeWidgetItem* itemOf(const FolderGroup& group) {
  auto* item = new QTreeWidgetItem({QString::number(group.count) + " " + group.title, group.detail});
  item->setFont(FolderFile, Theme::strong());
  item->setData(FolderFile, kTitleRole, group.title);
  item->setForeground(FolderDetail, colour(Role::SecondInk));
  if (group.isProblem) item->setForeground(FolderFile, colour(Role::Attention));
  for (const FolderLine& line : group.lines) {
    auto* below = new QTreeWidgetItem(item, {line.file, line.detail, line.folder});
    below->setFont(FolderFile, Theme::mono());
    below->setData(FolderFile, kKeyRole, text(line.key));
    below->setToolTip(FolderFile, line.file);
    below->setToolTip(FolderDetail, line.detail);
  }
  if (group.count > static_cast<std::size_t>(group.lines.size())) {
    auto* more = new QTreeWidgetItem(
        item,
        {FolderPanel::tr("and %1 more").arg(group.count - static_cast<std::size_t>(group.lines.size()))});
    more->setForeground(FolderFile, colour(Role::SecondInk));
  }
  return item;
}

/// Does what the command does, and is there only while that makes sense.
QPushButton* buttonOf(QAction* action, QWidget* parent) {
  auto* button = new QPushButton(parent);
  const auto follow = [button, action] {
    button->setText(action->text());
    button->setToolTip(action->toolTip());
    button->setVisible(action->isEnabled());
  };
  QObject::connect(action, &QAction::changed, button, follow);
  QObject::connect(button, &QPushButton::clicked, action, &QAction::trigger);
  follow();
  return button;
}

}  // namespace

FolderPanel::FolderPanel(Work& work, Commands& commands, QWidget* parent) : QWidget(parent), work_(work) {
  setObjectName("pane");
  words_ = new QLabel(this);
  words_->setFont(Theme::sentence());
  words_->setWordWrap(true);
  acts_ = new QLabel(this);
  acts_->setWordWrap(true);
  acts_->setAccessibleName(tr("What the next run begins with"));
  tree_ = new QTreeWidget(this);
  tree_->setAccessibleName(tr("Files of the folders"));
  tree_->setColumnCount(FolderColumns);
  tree_->setHeaderLabels({tr("File"), tr("What becomes of it"), tr("Folder")});
  tree_->setUniformRowHeights(true);
  tree_->setTextElideMode(Qt::ElideMiddle);
  tree_->header()->setStretchLastSection(false);
  for (const int column : {FolderFile, FolderDetail})
    tree_->header()->setSectionResizeMode(column, QHeaderView::Stretch);
  tree_->header()->setSectionResizeMode(FolderFolder, QHeaderView::ResizeToContents);
  buttons_ = new QWidget(this);
  addButtons(commands);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(14, 8, 14, 0);
  layout->setSpacing(6);
  layout->addWidget(words_);
  layout->addWidget(acts_);
  layout->addWidget(buttons_);
  layout->addWidget(tree_, 1);
  setFirstFocus(this, tree_);
  const auto go = [this](const QTreeWidgetItem* item) {
    const std::string key = item->data(FolderFile, kKeyRole).toString().toStdString();
    if (!key.empty()) work_.rows().show(key);
  };
  connect(tree_, &QTreeWidget::itemActivated, this, go);
  connect(tree_, &QTreeWidget::itemClicked, this, go);
  connect(tree_, &QTreeWidget::itemCollapsed, this,
          [this](const QTreeWidgetItem* item) { closed_ << item->data(FolderFile, kTitleRole).toString(); });
  connect(tree_, &QTreeWidget::itemExpanded, this, [this](const QTreeWidgetItem* item) {
    closed_.remove(item->data(FolderFile, kTitleRole).toString());
  });
  const auto later = [this] {
    isStale_ = true;
    if (isVisible()) reload();
  };
  connect(&work_.sheets(), &SheetKeeper::sheetChanged, this, later);
  connect(&work_.making(), &Making::finished, this, [this, later](const MadeReport& report) {
    last_ = folderGroupsOf(report);
    later();
  });
  connect(&work_.document(), &Document::opened, this, [this, later] {
    last_.clear();
    later();
  });
  connect(&Theme::instance(), &Theme::changed, this, later);
}

void FolderPanel::addButtons(Commands& commands) {
  auto* row = new QHBoxLayout(buttons_);
  row->setContentsMargins(0, 0, 0, 0);
  for (const char* id : {"folder.clean", "brief.edition", "brief.number-again"})
    row->addWidget(buttonOf(commands.action(id), buttons_));
  row->addStretch();
}

void FolderPanel::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  if (isStale_) reload();
}

void FolderPanel::showActs() {
  QStringList acts;
  for (const PlannedBrief& brief : work_.sheets().sheet()->briefs) {
    const QString name = text(printable(brief.brief.name, 80));
    if (work_.acts().newEditions().contains(brief.brief.id))
      acts << tr("Edition %1 of %2 begins with the next run.").arg(brief.edition.version).arg(name);
    if (brief.countsAnew) acts << tr("The next run numbers %1 again, without gaps.").arg(name);
  }
  acts_->setText(acts.join("  "));
  acts_->setVisible(!acts.isEmpty());
}

void FolderPanel::reload() {
  isStale_ = false;
  const int at = tree_->verticalScrollBar()->value();
  const QList<FolderGroup> groups = folderGroupsOf(*work_.sheets().sheet());
  words_->setText(groups.isEmpty() ? tr("Every file is as planned, and nothing else is in the folders.")
                                   : folderText(groups));
  showActs();
  const QSet<QString> closed = closed_;
  tree_->clear();
  QList<QTreeWidgetItem*> items;
  for (const FolderGroup& group : groups + last_) items << itemOf(group);
  tree_->addTopLevelItems(items);
  for (QTreeWidgetItem* item : items)
    item->setExpanded(!closed.contains(item->data(FolderFile, kTitleRole).toString()));
  closed_ = closed;
  tree_->setVisible(!items.isEmpty());
  tree_->verticalScrollBar()->setValue(at);
}

}  // namespace octaphon::app
