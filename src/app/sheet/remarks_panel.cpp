#include "app/sheet/remarks_panel.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QVBoxLayout>

#include "app/look/first_focus.h"
#include "app/look/theme.h"
#include "app/work/text.h"
#include "base/remark_info.h"
#include "base/unicode.h"
#include "brief/row_marks.h"
#include "plan/sentence.h"

namespace octaphon::app {
namespace {

enum CauseColumn { CauseWhat, CauseCount, CauseColumns };
constexpr int kCauseRole = Qt::UserRole;    // index of the cause
constexpr int kKeyRole = Qt::UserRole + 1;  // of the row, or of the brief as a whole
constexpr std::size_t kMostListed = 300;    // rows under a cause: the sheet shows them all

Role inkOf(Severity severity) {
  switch (severity) {
    case Severity::Fault: return Role::Fault;
    case Severity::Warning: return Role::Attention;
    case Severity::Note: break;
  }
  return Role::SecondInk;
}

}  // namespace

RemarksPanel::RemarksPanel(Work& work, Commands& commands, QWidget* parent)
    : QWidget(parent), work_(work), commands_(commands), sheet_(work.sheets().sheet()) {
  setObjectName("pane");
  layOut();
  connectAll();
}

void RemarksPanel::layOut() {
  words_ = new QLabel(this);
  words_->setFont(Theme::sentence());
  tree_ = new QTreeWidget(this);
  tree_->setObjectName("remarks");
  tree_->setAccessibleName(tr("Remarks by cause"));
  tree_->setColumnCount(CauseColumns);
  tree_->setHeaderLabels({tr("Cause"), tr("Rows")});
  tree_->setUniformRowHeights(true);
  tree_->headerItem()->setTextAlignment(CauseCount, Qt::AlignRight | Qt::AlignVCenter);
  tree_->header()->setSectionResizeMode(CauseCount, QHeaderView::ResizeToContents);
  tree_->setSelectionMode(QAbstractItemView::ExtendedSelection);
  tree_->header()->setStretchLastSection(false);
  tree_->header()->setSectionResizeMode(CauseWhat, QHeaderView::Stretch);
  title_ = new QLabel(this);
  title_->setFont(Theme::strong());
  title_->setWordWrap(true);
  meaning_ = new QLabel(this);
  meaning_->setWordWrap(true);
  meaning_->setAlignment(Qt::AlignTop);
  meaning_->setTextFormat(Qt::PlainText);
  reason_ = new QLineEdit(this);
  reason_->setPlaceholderText(tr("Why it may stay"));
  reason_->setAccessibleName(tr("Reason for accepting"));
  accept_ = new QPushButton(this);
  accept_->setObjectName("accept");
  cure_ = new QPushButton(this);
  showRows_ = new QPushButton(tr("On the sheet"), this);
  auto* side = new QWidget(this);
  side->setMinimumWidth(236);
  side->setMaximumWidth(300);
  auto* column = new QVBoxLayout(side);
  column->setContentsMargins(8, 0, 0, 8);
  column->setSpacing(6);
  column->addWidget(title_);
  column->addWidget(meaning_, 1);
  const auto addRow = [column](QWidget* first, QWidget* second) {
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    row->addWidget(first, 1);
    row->addWidget(second, 1);
    column->addLayout(row);
  };
  addRow(showRows_, cure_);
  addRow(reason_, accept_);
  auto* body = new QHBoxLayout;
  body->addWidget(tree_, 3);
  body->addWidget(side, 2);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(14, 8, 14, 0);
  layout->addWidget(words_);
  layout->addLayout(body, 1);
  setFirstFocus(this, tree_);
}

void RemarksPanel::connectAll() {
  connect(&work_.sheets(), &SheetKeeper::sheetChanged, this, [this] {
    if (isVisible()) reload();
  });
  connect(&Theme::instance(), &Theme::changed, this, &RemarksPanel::reload);
  connect(tree_, &QTreeWidget::currentItemChanged, this, &RemarksPanel::showCause);
  connect(tree_, &QTreeWidget::itemSelectionChanged, this, &RemarksPanel::showCause);
  connect(tree_, &QTreeWidget::itemActivated, this, &RemarksPanel::goTo);
  connect(accept_, &QPushButton::clicked, this, &RemarksPanel::accept);
  connect(reason_, &QLineEdit::returnPressed, this, &RemarksPanel::accept);
  connect(cure_, &QPushButton::clicked, this, &RemarksPanel::cure);
  connect(showRows_, &QPushButton::clicked, this, [this] {
    if (const RemarkCause* shown = cause()) {
      const std::vector<std::size_t> rows = shown->rows;  // of the newest sheet
      work_.showPanel("sheet");
      work_.rows().showAll(rows, true);
    }
  });
}

void RemarksPanel::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  reload();
}

void RemarksPanel::reload() {
  const RemarkCause* old = cause();
  const auto wanted = old == nullptr ? std::nullopt : std::optional(std::pair(old->code, old->isAccepted));
  sheet_ = work_.sheets().sheet();
  causes_ = causesOf(*sheet_);
  const QSignalBlocker quiet(tree_);
  tree_->clear();
  std::size_t open = 0, accepted = 0, causes = 0;
  for (std::size_t i = 0; i < causes_.size(); ++i) {
    addCause(i);
    (causes_[i].isAccepted ? accepted : open) += causes_[i].count();
    causes += causes_[i].isAccepted ? 0 : 1;
    if (wanted && *wanted == std::pair(causes_[i].code, causes_[i].isAccepted))
      tree_->setCurrentItem(tree_->topLevelItem(static_cast<int>(i)));
  }
  if (tree_->currentItem() == nullptr && !causes_.empty()) tree_->setCurrentItem(tree_->topLevelItem(0));
  QString words = open == 0 ? tr("Nothing to remark") : text(counted(open, "remark"));
  if (open > 0) words += tr(" of %1").arg(text(counted(causes, "cause")));
  if (accepted > 0) words += tr(", %1 accepted").arg(accepted);
  words_->setText(words);
  showCause();
}

void RemarksPanel::addCause(std::size_t index) {
  const RemarkCause& cause = causes_[index];
  const QString title = text(remarkInfo(cause.code).title);
  auto* item = new QTreeWidgetItem(
      tree_, {cause.isAccepted ? tr("Accepted: %1").arg(title) : title, QString::number(cause.count())});
  item->setData(CauseWhat, kCauseRole, static_cast<uint>(index));
  item->setTextAlignment(CauseCount, Qt::AlignRight | Qt::AlignVCenter);
  item->setFont(CauseWhat, cause.isAccepted ? Theme::body() : Theme::strong());
  item->setForeground(CauseWhat, colour(cause.isAccepted ? Role::SecondInk : inkOf(cause.severity)));
  const auto add = [&](const QString& words, const std::string& key) {
    auto* line = new QTreeWidgetItem(item, {words});
    line->setData(CauseWhat, kCauseRole, static_cast<uint>(index));
    line->setData(CauseWhat, kKeyRole, text(key));
    line->setFont(CauseWhat, Theme::mono());
  };
  for (const std::size_t brief : cause.briefs)
    add(tr("%1, as a whole").arg(text(sheet_->briefs[brief].brief.name)),
        sheet_->briefs[brief].brief.id + "/");
  for (std::size_t i = 0; i < std::min(cause.rows.size(), kMostListed); ++i) {
    const Row& row = sheet_->rows[cause.rows[i]];
    add(row.file.empty() ? text(sheet_->spanOf(row).name) : text(row.file), sheet_->keyOf(row));
  }
  if (cause.rows.size() > kMostListed) {
    auto* more =
        new QTreeWidgetItem(item, {tr("and %1 more, on the sheet").arg(cause.rows.size() - kMostListed)});
    more->setData(CauseWhat, kCauseRole, static_cast<uint>(index));
    more->setFlags(Qt::ItemIsEnabled);
  }
}

const RemarkCause* RemarksPanel::cause() const {
  const QTreeWidgetItem* item = tree_->currentItem();
  if (item == nullptr) return nullptr;
  const std::size_t index = item->data(CauseWhat, kCauseRole).toUInt();
  return index < causes_.size() ? &causes_[index] : nullptr;
}

std::vector<std::string> RemarksPanel::chosenKeys() const {
  const RemarkCause* shown = cause();
  if (shown == nullptr) return {};
  std::vector<std::string> keys;
  bool isWhole = false;
  for (const QTreeWidgetItem* item : tree_->selectedItems()) {
    if (&causes_[item->data(CauseWhat, kCauseRole).toUInt()] != shown) continue;
    const QString key = item->data(CauseWhat, kKeyRole).toString();
    isWhole = isWhole || key.isEmpty();
    if (!key.isEmpty()) keys.push_back(key.toStdString());
  }
  if (!isWhole && !keys.empty()) return keys;
  keys.clear();
  for (const std::size_t brief : shown->briefs) keys.push_back(sheet_->briefs[brief].brief.id + "/");
  for (const std::size_t row : shown->rows) keys.push_back(sheet_->keyOf(sheet_->rows[row]));
  return keys;
}

void RemarksPanel::showCause() {
  const RemarkCause* shown = cause();
  for (QWidget* widget : {static_cast<QWidget*>(reason_), static_cast<QWidget*>(accept_),
                          static_cast<QWidget*>(cure_), static_cast<QWidget*>(showRows_)})
    widget->setVisible(shown != nullptr);
  title_->setText(shown == nullptr ? QString() : text(remarkInfo(shown->code).title));
  if (shown == nullptr)
    return meaning_->setText(tr("What is noticed about files stands here, with what cures it."));
  QString words = text(remarkInfo(shown->code).meaning) + "\n\n" + text(shown->example);
  if (shown->isAccepted) words += "\n\n" + tr("Accepted: %1").arg(text(shown->reason));
  meaning_->setText(words);
  const std::size_t count = chosenKeys().size();
  reason_->setVisible(!shown->isAccepted && shown->severity != Severity::Fault);
  accept_->setVisible(shown->isAccepted || shown->severity != Severity::Fault);
  accept_->setText(shown->isAccepted ? tr("Count %1 again").arg(count) : tr("Accept %1").arg(count));
  showRows_->setEnabled(!shown->rows.empty());
  const PhraseKind phrase = phraseOf(shown->code);
  const bool isMedium =
      shown->code == RemarkCode::MissingMedium || shown->code == RemarkCode::DifferentMedium;
  cure_->setVisible(isMedium || phrase != PhraseKind::Plain);
  cure_->setText(isMedium ? tr("Find the sound …") : tr("Change %1").arg(text(phraseInfo(phrase).name)));
}

void RemarksPanel::goTo(const QTreeWidgetItem* item) {
  const std::string key = item->data(CauseWhat, kKeyRole).toString().toStdString();
  if (key.empty()) return;
  if (key.ends_with('/')) return work_.briefs().choose(key.substr(0, key.size() - 1));
  work_.rows().show(key);
  work_.places().goToRow(key);
}

/// The brief of the first row, at the phrase that the remark is about.
void RemarksPanel::cure() {
  const RemarkCause* shown = cause();
  if (shown == nullptr) return;
  const PhraseKind phrase = phraseOf(shown->code);
  if (phrase == PhraseKind::Plain) return commands_.action("media.find")->trigger();
  const std::vector<std::string> keys = chosenKeys();
  if (!keys.empty()) work_.briefs().choose(keys.front().substr(0, keys.front().find('/')));
  work_.askForPhrase(static_cast<int>(phrase));
}

void RemarksPanel::accept() {
  const RemarkCause* shown = cause();
  if (shown == nullptr) return;
  const QString remarks = text(counted(chosenKeys().size(), "remark"));
  if (shown->isAccepted)
    changeAccepted(tr("Let %1 count again").arg(remarks), false);
  else if (shown->severity != Severity::Fault)
    changeAccepted(tr("Accept %1").arg(remarks), true);
}

void RemarksPanel::changeAccepted(const QString& words, bool on) {
  const std::vector<std::string> keys = chosenKeys();
  const std::string code(remarkName(cause()->code));
  const std::string reason = reason_->text().trimmed().toStdString();
  work_.document().edit(words, [&](Session& session) {
    for (Brief& brief : session.briefs) {
      if (on)
        acceptRemarks(brief, code, keys, reason);
      else
        takeBackAccepted(brief, code, keys);
    }
  });
  reason_->clear();
}

}  // namespace octaphon::app
