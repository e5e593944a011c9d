#include "app/prepare/checks_panel.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QVBoxLayout>

#include "app/look/first_focus.h"
#include "app/look/theme.h"
#include "app/work/text.h"
#include "base/unicode.h"

namespace octaphon::app {

constexpr int kFindingRole = Qt::UserRole;

ChecksPanel::ChecksPanel(Work& work, QWidget* parent) : QWidget(parent), work_(work) {
  setObjectName("pane");
  tree_ = new QTreeWidget(this);
  tree_->setObjectName("checks");
  tree_->setAccessibleName(tr("What would go wrong later"));
  tree_->setColumnCount(2);
  tree_->setHeaderHidden(true);
  tree_->setIndentation(16);
  tree_->setSelectionMode(QAbstractItemView::ExtendedSelection);
  tree_->header()->setStretchLastSection(false);
  tree_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
  tree_->header()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
  words_ = new QLabel(this);
  words_->setFont(Theme::sentence());
  words_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  cure_ = new QPushButton(tr("Cure"), this);
  auto* top = new QHBoxLayout;
  top->addWidget(words_, 1);
  top->addWidget(cure_);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(14, 8, 14, 0);
  layout->addLayout(top);
  layout->addWidget(tree_, 1);
  layout->addStretch();
  timer_.setSingleShot(true);
  timer_.setInterval(80);
  connect(&timer_, &QTimer::timeout, this, &ChecksPanel::reload);
  const auto later = [this] { timer_.start(); };
  connect(&work_.document(), &Document::changed, this, later);
  connect(&work_.document(), &Document::opened, this, later);
  connect(&work_.sheets(), &SheetKeeper::factsChanged, this, later);
  connect(cure_, &QPushButton::clicked, this, &ChecksPanel::cureSelected);
  connect(tree_, &QTreeWidget::itemSelectionChanged, this, &ChecksPanel::updateButton);
  const auto go = [this](QTreeWidgetItem* item) {
    const QVariant index = item != nullptr ? item->data(0, kFindingRole) : QVariant();
    if (index.isValid()) work_.places().goTo(Finding(findings_[index.toUInt()]));
  };
  connect(tree_, &QTreeWidget::itemActivated, this, go);
  connect(tree_, &QTreeWidget::itemClicked, this, go);
  setFirstFocus(this, tree_);
  updateButton();
}

void ChecksPanel::reload() {
  if (!isVisible()) return;
  findings_ = checkSession(*work_.session(), work_.sheets().facts().get());
  tree_->clear();
  QTreeWidgetItem* group = nullptr;
  for (std::size_t i = 0; i < findings_.size(); ++i) {
    const Finding& finding = findings_[i];
    if (i == 0 || findings_[i - 1].kind != finding.kind) {
      group = new QTreeWidgetItem(tree_, {text(findingTitle(finding.kind))});
      group->setFont(0, Theme::strong());
      group->setExpanded(true);
    }
    auto* item = new QTreeWidgetItem(group, {text(finding.text), text(finding.cure)});
    item->setData(0, kFindingRole, static_cast<uint>(i));
    item->setForeground(0, colour(finding.severity == Severity::Fault     ? Role::Fault
                                  : finding.severity == Severity::Warning ? Role::Attention
                                                                          : Role::Ink));
    item->setForeground(1, colour(Role::SecondInk));
    group->setText(1, QString::number(group->childCount()));
    group->setForeground(1, colour(Role::SecondInk));
  }
  words_->setText(findings_.empty() ? tr("Nothing that would go wrong was found")
                                    : tr("%1 worth a look").arg(text(counted(findings_.size(), "thing"))));
  tree_->setVisible(!findings_.empty());
  updateButton();
}

std::vector<std::size_t> ChecksPanel::selectedFindings() const {
  std::vector<std::size_t> indices;
  const auto add = [&](const QTreeWidgetItem* item) {
    const QVariant index = item->data(0, kFindingRole);
    if (index.isValid() && !findings_[index.toUInt()].cure.empty()) indices.push_back(index.toUInt());
  };
  for (const QTreeWidgetItem* item : tree_->selectedItems()) {
    add(item);
    for (int i = 0; i < item->childCount(); ++i) add(item->child(i));
  }
  std::sort(indices.begin(), indices.end());
  indices.erase(std::unique(indices.begin(), indices.end()), indices.end());
  return indices;
}

void ChecksPanel::updateButton() {
  const auto chosen = selectedFindings();
  cure_->setEnabled(!chosen.empty());
  cure_->setText(chosen.size() == 1 ? text(findings_[chosen[0]].cure)
                 : chosen.empty()   ? tr("Cure")
                                    : tr("Cure %1").arg(chosen.size()));
}

std::size_t ChecksPanel::cureSelected() {
  std::size_t cured = 0;
  std::vector<Finding> chosen;
  for (const std::size_t index : selectedFindings()) chosen.push_back(findings_[index]);
  if (chosen.size() == 1 && chosen[0].kind == FindingKind::MissingMedium) {
    emit mediaWanted();
    return 0;
  }
  const auto facts = work_.sheets().facts();
  work_.document().edit(tr("Cure %1").arg(text(counted(chosen.size(), "finding"))), [&](Session& session) {
    for (const Finding& finding : chosen) cured += cure(session, finding, facts.get()) ? 1 : 0;
  });
  return cured;
}

void ChecksPanel::showEvent(QShowEvent*) { timer_.start(); }

}  // namespace octaphon::app
