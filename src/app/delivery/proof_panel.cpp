#include "app/delivery/proof_panel.h"

#include <algorithm>
#include <QHeaderView>
#include <QStyledItemDelegate>
#include <QTreeWidgetItemIterator>
#include <QVBoxLayout>
#include <set>

#include "app/commands/command_button.h"
#include "app/look/first_focus.h"
#include "app/look/theme.h"
#include "app/work/text.h"
#include "base/unicode.h"

namespace octaphon::app {
namespace {

enum FindingColumn { FindingFile, FindingFound, FindingColumns };
constexpr int kGroupRole = Qt::UserRole, kLineRole = Qt::UserRole + 1;

Role inkOf(Severity severity) {
  switch (severity) {
    case Severity::Fault: return Role::Fault;
    case Severity::Warning: return Role::Attention;
    case Severity::Note: break;
  }
  return Role::Ink;
}

/// Names of one brief differ at their ends.
class NameDelegate : public QStyledItemDelegate {
 public:
  using QStyledItemDelegate::QStyledItemDelegate;

 protected:
  void initStyleOption(QStyleOptionViewItem* option, const QModelIndex& index) const override {
    QStyledItemDelegate::initStyleOption(option, index);
    option->textElideMode = Qt::ElideMiddle;
  }
};

}  // namespace

ProofPanel::ProofPanel(Work& work, Commands& commands, QWidget* parent) : QWidget(parent), work_(work) {
  setObjectName("pane");
  layOut(commands);
  setFirstFocus(this, table_);
  const auto goTo = [this](const QTreeWidgetItem* item) { go(item); };
  connect(table_, &QTreeWidget::itemActivated, this, goTo);
  connect(table_, &QTreeWidget::itemClicked, this, goTo);
  connect(table_, &QTreeWidget::itemSelectionChanged, this, &ProofPanel::showLine);
  connect(table_, &QTreeWidget::currentItemChanged, this, &ProofPanel::showLine);  // told after the other
  const auto turn = [this](const QTreeWidgetItem* item) {
    const QString title = groups_[item->data(FindingFile, kGroupRole).toUInt()].title;
    if (!turned_.remove(title)) turned_.insert(title);
  };
  connect(table_, &QTreeWidget::itemExpanded, this, turn);
  connect(table_, &QTreeWidget::itemCollapsed, this, turn);
  connect(&Theme::instance(), &Theme::changed, this, &ProofPanel::changed);
  connect(&work_.making(), &Making::finished, this, &ProofPanel::take);
  connect(&work_.maker(), &RowMaker::failedChanged, this, &ProofPanel::changed);
  connect(&work_.checking(), &Checking::changed, this, &ProofPanel::changed);
  connect(&work_.document(), &Document::opened, this, &ProofPanel::clear);
  reload();
}

void ProofPanel::layOut(Commands& commands) {
  words_ = new QLabel(this);
  words_->setFont(Theme::sentence());
  words_->setWordWrap(true);
  table_ = new QTreeWidget(this);
  table_->setObjectName("proof");
  table_->setAccessibleName(tr("What was found, by cause"));
  table_->setColumnCount(FindingColumns);
  table_->setHeaderLabels({tr("Where"), tr("Found")});
  table_->setHeaderHidden(true);
  table_->setUniformRowHeights(true);
  table_->setIndentation(14);
  table_->setItemDelegateForColumn(FindingFile, new NameDelegate(table_));
  table_->setSelectionMode(QAbstractItemView::ExtendedSelection);
  table_->header()->setStretchLastSection(false);
  table_->header()->setSectionResizeMode(FindingFound, QHeaderView::Stretch);
  again_ = buttonFor(commands.action("make.failed"), "quiet", this);
  check_ = buttonFor(commands.action("delivery.check"), "quiet", this, [] { return tr("Check again"); });
  file_ = new ProofFile(work_, commands, this);
  auto* side = new QVBoxLayout;
  side->setSpacing(4);
  side->addWidget(file_, 1);
  side->addLayout(makeAccepting());
  auto* head = new QHBoxLayout;
  head->addWidget(words_, 1);
  head->addWidget(again_);
  head->addWidget(check_);
  auto* body = new QHBoxLayout;
  body->setSpacing(10);
  body->addWidget(table_, 1);
  body->addLayout(side);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(14, 8, 14, 6);
  layout->setSpacing(4);
  layout->addLayout(head);
  layout->addLayout(body, 1);
}

QLayout* ProofPanel::makeAccepting() {
  reason_ = new QLineEdit(this);
  reason_->setPlaceholderText(tr("Why it may stay"));
  reason_->setAccessibleName(tr("Reason for accepting"));
  accept_ = new QPushButton(this);
  accept_->setObjectName("accept");
  connect(accept_, &QPushButton::clicked, this, &ProofPanel::accept);
  connect(reason_, &QLineEdit::returnPressed, this, &ProofPanel::accept);
  auto* row = new QHBoxLayout;
  row->setSpacing(4);
  row->addWidget(reason_, 1);
  row->addWidget(accept_);
  return row;
}

/// Where there is no room for both, names stand alone: what was found is said beside them.
void ProofPanel::resizeEvent(QResizeEvent*) {
  constexpr int kLeast = 300;
  file_->setFixedWidth(std::clamp(width() * 45 / 100, 280, 460));
  const int rest = width() - file_->width() - 40;
  table_->setColumnHidden(FindingFound, rest < kLeast);
  table_->header()->setSectionResizeMode(FindingFile,
                                         rest < kLeast ? QHeaderView::Stretch : QHeaderView::Interactive);
  table_->setColumnWidth(FindingFile, rest * 64 / 100);  // what was found is said in full beside them
}

void ProofPanel::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  if (isStale_) reload();
}

void ProofPanel::take(const MadeReport& report) {
  run_.take(report);
  changed();
}

void ProofPanel::clear() {
  run_.clear();
  turned_.clear();
  changed();
}

void ProofPanel::changed() {
  isStale_ = true;
  if (isVisible()) reload();
}

QTreeWidgetItem* ProofPanel::itemOf(const ProofGroup& group, std::size_t index) const {
  const QString count = group.count == 1 ? QString() : QString::fromUtf8(" · %1").arg(group.count);
  auto* top = new QTreeWidgetItem(QStringList{group.title + count});
  top->setData(FindingFile, kGroupRole, static_cast<uint>(index));
  top->setFont(FindingFile, Theme::strong());
  top->setForeground(FindingFile, colour(inkOf(group.severity)));
  for (std::size_t i = 0; i < group.lines.size(); ++i) {
    const ProofLine& line = group.lines[i];
    auto* item = new QTreeWidgetItem(top, {line.file, line.found});
    item->setData(FindingFile, kGroupRole, static_cast<uint>(index));
    item->setData(FindingFile, kLineRole, static_cast<uint>(i));
    item->setFont(FindingFile, Theme::mono());
    item->setToolTip(FindingFile, line.file);
    item->setToolTip(FindingFound, line.found);
    item->setForeground(FindingFound, colour(Role::SecondInk));
  }
  if (group.count > kMostProofLines) {
    auto* more = new QTreeWidgetItem(top, {tr("and %1 more").arg(group.count - kMostProofLines)});
    more->setData(FindingFile, kGroupRole, static_cast<uint>(index));
    more->setFlags(Qt::ItemIsEnabled);
  }
  return top;
}

QString ProofPanel::keyOf(const QTreeWidgetItem* item) const {
  const QString title = groups_[item->data(FindingFile, kGroupRole).toUInt()].title;
  const ProofLine* line = lineOf(item);
  return line == nullptr ? title : QStringList{title, line->file, line->found}.join('\n');
}

/// What was chosen stays so, as far as it is there: someone may be typing why it may stay.
void ProofPanel::reload() {
  isStale_ = false;
  QSet<QString> chosen;
  for (const QTreeWidgetItem* item : table_->selectedItems()) chosen << keyOf(item);
  const QString current = table_->currentItem() == nullptr ? QString() : keyOf(table_->currentItem());
  groups_ = proofGroups(run_, work_.checking());
  again_->setVisible(!work_.maker().failed().empty());
  {
    const QSignalBlocker quiet(table_);
    table_->clear();
    QList<QTreeWidgetItem*> items;
    for (std::size_t i = 0; i < groups_.size(); ++i) items << itemOf(groups_[i], i);
    table_->addTopLevelItems(items);
    for (int i = 0; i < items.size(); ++i) {
      const ProofGroup& group = groups_[static_cast<std::size_t>(i)];
      table_->setFirstColumnSpanned(i, {}, true);
      items[i]->setExpanded(group.isOpen != turned_.contains(group.title));
    }
    for (QTreeWidgetItemIterator item(table_); *item != nullptr; ++item) {
      const QString key = keyOf(*item);
      if (key == current) table_->setCurrentItem(*item, 0, QItemSelectionModel::NoUpdate);
      if (chosen.contains(key)) (*item)->setSelected(true);
    }
  }
  table_->setVisible(!groups_.empty());
  file_->setVisible(!groups_.empty());
  words_->setText(proofText(run_, work_.checking()));
  showLine();
}

const ProofLine* ProofPanel::lineOf(const QTreeWidgetItem* item) const {
  const QVariant line = item->data(FindingFile, kLineRole);
  if (!line.isValid()) return nullptr;
  const std::size_t group = item->data(FindingFile, kGroupRole).toUInt();
  return group < groups_.size() && line.toUInt() < groups_[group].lines.size()
             ? &groups_[group].lines[line.toUInt()]
             : nullptr;
}

std::vector<FileFinding> ProofPanel::chosenFindings() const {
  std::vector<FileFinding> findings;
  std::optional<bool> areAccepted;
  const auto add = [&](const FileFinding& finding) {
    const bool isAccepted = finding.accepted.has_value();
    if (finding.row.empty() || areAccepted.value_or(isAccepted) != isAccepted) return;
    areAccepted = isAccepted;
    findings.push_back(finding);
  };
  std::set<std::size_t> whole;  // causes that are chosen as such
  for (const QTreeWidgetItem* item : table_->selectedItems()) {
    const std::size_t index = item->data(FindingFile, kGroupRole).toUInt();
    if (item->parent() != nullptr || !groups_[index].code || !whole.insert(index).second) continue;
    const bool isAccepted = groups_[index].lines.front().finding->accepted.has_value();
    for (const auto& [base, report] : work_.checking().reports())
      for (const FileFinding& finding : report->findings)
        if (finding.code == groups_[index].code && finding.accepted.has_value() == isAccepted) add(finding);
  }
  for (const QTreeWidgetItem* item : table_->selectedItems())
    if (const ProofLine* line = lineOf(item);
        line != nullptr && line->finding && !whole.contains(item->data(FindingFile, kGroupRole).toUInt()))
      add(*line->finding);
  return findings;
}

void ProofPanel::showLine() {
  const QList<QTreeWidgetItem*> chosen = table_->selectedItems();
  const QTreeWidgetItem* current = table_->currentItem();
  file_->show(chosen.isEmpty() || current == nullptr ? nullptr : lineOf(current));
  const std::vector<FileFinding> findings = chosenFindings();
  const bool areAccepted = !findings.empty() && findings.front().accepted;
  accept_->setVisible(!findings.empty());
  reason_->setVisible(!findings.empty() && !areAccepted);
  accept_->setText((areAccepted ? tr("Count %1 again") : tr("Accept %1")).arg(findings.size()));
}

void ProofPanel::go(const QTreeWidgetItem* item) {
  const ProofLine* line = lineOf(item);
  if (line == nullptr) return;
  if (work_.sheets().sheet()->find(line->row)) {
    work_.rows().show(line->row);
    work_.places().goToRow(line->row);
  } else if (line->span) {
    work_.places().goTo(PlannedSpan(*line->span));
  }
}

void ProofPanel::accept() {
  const std::vector<FileFinding> findings = chosenFindings();
  if (findings.empty()) return;
  const QString reason = reason_->text();
  reason_->clear();
  if (findings.front().accepted)
    work_.checking().takeBack(findings);
  else
    work_.checking().accept(findings, reason);
}

}  // namespace octaphon::app
