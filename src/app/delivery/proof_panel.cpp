#include "app/delivery/proof_panel.h"

#include <algorithm>
#include <QHeaderView>
#include <QPushButton>
#include <QTime>
#include <QVBoxLayout>

#include "app/commands/command_button.h"
#include "app/look/first_focus.h"
#include "app/look/numbers.h"
#include "app/look/theme.h"
#include "app/work/text.h"
#include "base/decibels.h"
#include "base/unicode.h"

namespace octaphon::app {
namespace {

enum Column { Where, Of, Found, Figure, At, Columns };
constexpr int kLineRole = Qt::UserRole;
constexpr int kFigureRole = Qt::UserRole + 1;
constexpr double kFailed = 1e9;  // before all that was measured

/// Finer than decibelText(), which takes what is under −144 dB for silence.
QString residualText(double decibels) {
  if (decibels <= kExactSumDb) return ProofPanel::tr("exact");
  return numberText(decibels, 1) + " dB";
}

/// Sorts figures by what they are, not by how they are written.
class LineItem : public QTreeWidgetItem {
 public:
  using QTreeWidgetItem::QTreeWidgetItem;
  bool operator<(const QTreeWidgetItem& other) const override {
    const int column = treeWidget() == nullptr ? 0 : treeWidget()->sortColumn();
    const QVariant mine = data(column, kFigureRole), its = other.data(column, kFigureRole);
    return mine.isValid() && its.isValid() ? mine.toDouble() < its.toDouble()
                                           : text(column) < other.text(column);
  }
};

}  // namespace

QString sumsText(const std::vector<MadeSum>& sums) {
  std::size_t judged = 0, adds = 0;
  double worst = kExactSumDb;
  for (const MadeSum& sum : sums) {
    if (sum.outcome.verdict == SumVerdict::NotJudged) continue;
    ++judged;
    adds += sum.outcome.verdict == SumVerdict::AddsUp ? 1 : 0;
    worst = std::max(worst, sum.outcome.residualDb);
  }
  if (judged == 0) return {};
  if (adds < judged)
    return ProofPanel::tr("layers differ in %1 of %2").arg(judged - adds).arg(text(counted(judged, "span")));
  const QString most = worst <= kExactSumDb ? ProofPanel::tr("exactly")
                                            : ProofPanel::tr("%1 at most").arg(residualText(worst));
  return ProofPanel::tr("layers add up in %1 (%2)").arg(text(counted(judged, "span")), most);
}

ProofPanel::ProofPanel(Work& work, Commands& commands, QWidget* parent) : QWidget(parent), work_(work) {
  setObjectName("pane");
  words_ = new QLabel(this);
  words_->setFont(Theme::sentence());
  words_->setWordWrap(true);
  table_ = new QTreeWidget(this);
  table_->setAccessibleName(tr("What was measured"));
  table_->setColumnCount(Columns);
  table_->setHeaderLabels({tr("Where"), tr("Brief"), tr("Found"), tr("Figure"), tr("Made at")});
  table_->setRootIsDecorated(false);
  table_->setUniformRowHeights(true);
  table_->setSortingEnabled(true);
  table_->sortByColumn(Figure, Qt::DescendingOrder);
  table_->header()->setStretchLastSection(false);
  table_->header()->setSectionResizeMode(Found, QHeaderView::Stretch);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(14, 8, 14, 0);
  again_ = buttonFor(commands.action("make.failed"), "quiet", this);
  auto* head = new QHBoxLayout;
  head->addWidget(words_, 1);
  head->addWidget(again_);
  layout->addLayout(head);
  layout->addWidget(table_, 1);
  layout->addStretch();
  setFirstFocus(this, table_);
  const auto go = [this](const QTreeWidgetItem* item) {
    work_.places().goTo(PlannedSpan(lines_[item->data(0, kLineRole).toUInt()].span));
  };
  connect(&Theme::instance(), &Theme::changed, this, &ProofPanel::reload);
  connect(table_, &QTreeWidget::itemActivated, this, go);
  connect(table_, &QTreeWidget::itemClicked, this, go);
  connect(&work_.making(), &Making::finished, this, &ProofPanel::take);
  connect(&work_.maker(), &RowMaker::failedChanged, this, &ProofPanel::reload);
  connect(&work_.document(), &Document::opened, this, &ProofPanel::clear);
  reload();
}

void ProofPanel::take(const MadeReport& report) {
  const QString now = QTime::currentTime().toString("HH:mm");
  std::vector<Line> lines;
  std::set<QString> again;
  for (const MadeFile& made : report.made) again.insert(made.file);
  for (const MadeFailure& failure : report.failed) {
    again.insert(failure.file);
    lines.push_back({failure.file,
                     {failure.file, text(printable(failure.briefName, 200)),
                      tr("not made: %1").arg(failure.why), QString(QChar(0x2013)), now},
                     kFailed,
                     true,
                     failure.span,
                     {}});
  }
  for (const MadeSum& sum : report.sums) {
    const QString key =
        QStringList{text(sum.brief), QString::number(static_cast<int>(sum.span.kind)), text(sum.span.id)}
            .join('\n');
    const SumOutcome& outcome = sum.outcome;
    const bool isJudged = outcome.verdict != SumVerdict::NotJudged;
    const QString words = isJudged ? text(outcome.text) : tr("not judged: %1").arg(text(outcome.text));
    again.insert(key);
    lines.push_back({key,
                     {text(printable(sum.span.name, 200)), text(printable(sum.briefName, 200)), words,
                      isJudged ? residualText(outcome.residualDb) : QString(QChar(0x2013)), now},
                     isJudged ? outcome.residualDb : kExactSumDb - 1,
                     outcome.verdict == SumVerdict::Differs,
                     sum.span,
                     sum});
  }
  for (const MadeRemark& remark : report.remarks)
    lines.push_back({remark.file,
                     {remark.file, text(printable(remark.briefName, 200)), text(remark.text),
                      text(decibelText(remark.levelDb)) + " dB", now},
                     remark.levelDb,
                     remark.isWarning,
                     remark.span,
                     {}});
  std::erase_if(lines_, [&](const Line& line) { return again.contains(line.key); });
  lines_.insert(lines_.end(), std::make_move_iterator(lines.begin()), std::make_move_iterator(lines.end()));
  reload();
}

void ProofPanel::clear() {
  lines_.clear();
  reload();
}

void ProofPanel::reload() {
  table_->setVisible(!lines_.empty());
  again_->setVisible(!work_.maker().failed().empty());
  table_->clear();
  QList<QTreeWidgetItem*> items;
  for (std::size_t i = 0; i < lines_.size(); ++i) {
    const Line& line = lines_[i];
    auto* item = new LineItem(line.texts);
    item->setData(Where, kLineRole, static_cast<uint>(i));
    item->setData(Figure, kFigureRole, line.figure);
    item->setTextAlignment(Figure, Qt::AlignRight | Qt::AlignVCenter);
    item->setToolTip(Where, line.texts[Where]);
    item->setToolTip(Found, line.texts[Found]);
    if (line.isFault) item->setForeground(Found, colour(Role::Fault));
    items << item;
  }
  table_->addTopLevelItems(items);
  for (const int column : {Where, Of, Figure, At}) table_->resizeColumnToContents(column);
  std::vector<MadeSum> sums;
  for (const Line& line : lines_)
    if (line.sum) sums.push_back(*line.sum);
  const auto open = static_cast<std::size_t>(std::count_if(sums.begin(), sums.end(), [](const MadeSum& sum) {
    return sum.outcome.verdict == SumVerdict::NotJudged;
  }));
  const QString judged = sumsText(sums);
  QString words = judged.isEmpty() ? tr("No sum could be judged") : judged.left(1).toUpper() + judged.mid(1);
  if (open > 0 && !judged.isEmpty()) words += tr("; %1 not judged").arg(text(counted(open, "span")));
  const std::size_t failed = work_.maker().failed().size();
  if (failed > 0) {
    const QString files = tr("%1 could not be made").arg(text(counted(failed, "file")));
    words = judged.isEmpty() ? files : files + "; " + words.left(1).toLower() + words.mid(1);
  }
  words_->setText(lines_.empty() ? tr("Nothing was measured yet. Make the layers of a mix, and here stands "
                                      "whether they add up to it.")
                                 : words);
}

}  // namespace octaphon::app
