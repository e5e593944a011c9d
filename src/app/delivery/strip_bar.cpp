#include "app/delivery/strip_bar.h"

#include <algorithm>
#include <functional>
#include <QAction>
#include <QApplication>
#include <QDir>
#include <QHBoxLayout>
#include <QRegularExpression>
#include <QShortcut>
#include <QTimer>

#include "app/commands/command_button.h"
#include "app/delivery/proof_lines.h"
#include "app/look/theme.h"
#include "app/work/text.h"
#include "base/unicode.h"

namespace octaphon::app {
namespace {

constexpr qsizetype kMostTold = 5;

}  // namespace

StripBar::StripBar(Work& work, Commands& commands, QWidget* parent)
    : QWidget(parent), work_(work), making_(work.making()) {
  setObjectName("bar");
  setAttribute(Qt::WA_StyledBackground);
  setFixedHeight(46);
  count_ = new QLabel(this);
  count_->setFont(Theme::strong());
  count_->setAccessibleName(tr("How many files, and why"));
  count_->setContentsMargins(0, 0, 8, 0);
  count_->hide();
  state_ = new QLabel(this);
  state_->setAccessibleName(tr("What is to do"));
  state_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  bar_ = new QProgressBar(this);
  bar_->setTextVisible(false);
  bar_->setRange(0, 1000);
  bar_->setFixedSize(150, 10);
  bar_->setAccessibleName(tr("Progress"));
  pause_ = new QPushButton(tr("Pause"), this);
  stop_ = new QPushButton(tr("Stop"), this);
  stop_->setToolTip(tr("Stops; what is not done leaves nothing behind"));
  selected_ = buttonFor(commands.action("row.make"), "quiet", this,
                        [this] { return tr("Selected %1").arg(work_.rows().count()); });
  all_ = buttonFor(commands.action("make.all"), "quiet", this);
  make_ = buttonFor(commands.action("make.due"), "make", this);
  makeLook();
  auto* layout = new QHBoxLayout(this);
  layout->setContentsMargins(14, 0, 14, 0);
  layout->setSpacing(12);
  layout->addWidget(count_);
  layout->addWidget(state_, 1);
  for (QWidget* widget :
       {static_cast<QWidget*>(bar_), static_cast<QWidget*>(pause_), static_cast<QWidget*>(stop_),
        static_cast<QWidget*>(selected_), static_cast<QWidget*>(all_), static_cast<QWidget*>(make_)})
    layout->addWidget(widget);
  layout->insertWidget(0, look_, 1);
  layout->addWidget(leave_);
  layout->addWidget(goOn_);
  timer_.setInterval(80);
  connect(&timer_, &QTimer::timeout, this, &StripBar::tick);
  connect(&making_, &Making::started, this, [this] { setRunning(true); });
  connect(&making_, &Making::finished, this, [this] { setRunning(false); });
  connect(stop_, &QPushButton::clicked, this, [this] { making_.stop(); });
  connect(pause_, &QPushButton::clicked, this, [this] {
    making_.pause(!making_.isPaused());
    pause_->setText(making_.isPaused() ? tr("Go on") : tr("Pause"));
  });
  connectWork();
  setRunning(false);
}

/// Before files are made: how many, how long, how large, where to, and what it does to what is there.
void StripBar::makeLook() {
  look_ = new QLabel(this);
  look_->setAccessibleName(tr("What would be made"));
  look_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  goOn_ = new QPushButton(this);
  goOn_->setObjectName("make");
  goOn_->setAutoDefault(true);
  goOn_->setToolTip(tr("Makes them  Return"));
  leave_ = new QPushButton(tr("Not now"), this);
  leave_->setToolTip(tr("Makes nothing  Esc"));
  connect(goOn_, &QPushButton::clicked, &work_.maker(), &RowMaker::goOn);
  connect(leave_, &QPushButton::clicked, &work_.maker(), &RowMaker::leave);
  auto* escape = new QShortcut(Qt::Key_Escape, this);
  escape->setContext(Qt::WidgetWithChildrenShortcut);
  connect(escape, &QShortcut::activated, &work_.maker(), &RowMaker::leave);
  connect(&work_.maker(), &RowMaker::lookChanged, this, &StripBar::showLook);
}

namespace {

/// `2:14 min`, `0:03.520`
QString soundText(double seconds) {
  return StripBar::tr("%1 of sound").arg(text(shortTimeText(seconds + 0.5)));
}

QStringList partsOf(const LastLook& look, const Session& session) {
  QStringList parts{text(counted(look.files, "file")), soundText(look.seconds)};
  if (look.bytes > 0)
    parts << StripBar::tr("%1 MB").arg(static_cast<double>(look.bytes) / 1e6, 0, 'f',
                                       look.bytes < 10'000'000 ? 1 : 0);
  const QDir base(text(session.folder().string()));
  const QString folder = base.relativeFilePath(text(look.folders.begin()->full().string()));
  parts << (look.folders.size() == 1 ? StripBar::tr("into %1").arg(folder)
                                     : StripBar::tr("into %1 folders").arg(look.folders.size()));
  if (look.replaced > 0) parts << StripBar::tr("%1 replaced").arg(look.replaced);
  if (look.renamed > 0) parts << StripBar::tr("%1 renamed").arg(look.renamed);
  if (look.heldBack > 0) parts << StripBar::tr("%1 held back").arg(look.heldBack);
  if (look.remarks > 0) parts << StripBar::tr("%1 with remarks").arg(look.remarks);
  return parts;
}

}  // namespace

void StripBar::showLook() {
  const LastLook* look = work_.maker().look();
  showParts();
  if (look == nullptr) {
    look_->clear();
    if (before_ != nullptr) before_->setFocus(Qt::OtherFocusReason);
    before_ = nullptr;
    return;
  }
  const QStringList parts = partsOf(*look, *work_.session());
  look_->setText(parts.join("  ·  "));
  look_->setToolTip(parts.join('\n'));
  goOn_->setText(tr("Make %1 now").arg(text(counted(look->files, "file"))));
  if (before_ == nullptr && !goOn_->hasFocus()) {
    before_ = QApplication::focusWidget();
    goOn_->setFocus(Qt::OtherFocusReason);
  }
}

/// While there is a last look, nothing but it.
void StripBar::showParts() {
  const bool isLook = work_.maker().look() != nullptr;
  const bool running = making_.isRunning();
  for (QWidget* widget :
       {static_cast<QWidget*>(look_), static_cast<QWidget*>(goOn_), static_cast<QWidget*>(leave_)})
    widget->setVisible(isLook);
  for (QWidget* widget :
       {static_cast<QWidget*>(bar_), static_cast<QWidget*>(pause_), static_cast<QWidget*>(stop_)})
    widget->setVisible(running);
  count_->setVisible(!isLook && !work_.sheets().sheet()->briefs.empty());
  state_->setVisible(!isLook);
  all_->setVisible(!running && !isLook && work_.sheets().counts().again > 0);
  selected_->setVisible(!running && !isLook && !work_.rows().isEmpty());
  make_->setVisible(!running && !isLook);
}

void StripBar::connectWork() {
  const auto forget = [this] { say({}, false); };
  connect(&work_.document(), &Document::opened, this, forget);
  connect(&work_.document(), &Document::changed, this, forget);
  connect(&work_.news(), &News::said, this, &StripBar::say);
  connect(&work_.sheets(), &SheetKeeper::sheetChanged, this, &StripBar::showSheet);
  connect(&making_, &Making::finished, this, &StripBar::tellRun);
  connect(&work_.checking(), &Checking::changed, this, &StripBar::tellFindings);
  connect(&Theme::instance(), &Theme::changed, this, &StripBar::showSheet);  // news have a colour
  connect(&work_.rows(), &RowChoice::changed, this, [this] {
    showParts();
    fitLater();
  });
}

void StripBar::setRunning(bool running) {
  showParts();
  pause_->setText(tr("Pause"));
  if (running) {
    news_.clear();
    timer_.start();
    tick();
  } else {
    timer_.stop();
    state_->setText(restText());
  }
}

void StripBar::tick() {
  const RunControl* control = making_.control();
  if (control == nullptr) return;
  const ProgressFigures figures = making_.figures();
  bar_->setValue(static_cast<int>(figures.fraction * 1000));
  QStringList parts{making_.isPaused() ? tr("paused")
                                       : QString::fromUtf8(runStageText(control->stage).data())};
  if (control->filesAll > 0) parts << tr("%1 of %2 files").arg(control->filesDone).arg(control->filesAll);
  if (figures.realtime > 0) parts << tr("%1 × real time").arg(figures.realtime, 0, 'f', 0);
  if (figures.secondsLeft >= 0)
    parts << tr("%1 left").arg(QString::fromStdString(shortTimeText(figures.secondsLeft + 0.5)));
  state_->setText(parts.join("  ·  "));
}

void StripBar::showSheet() {
  const Sheet& sheet = *work_.sheets().sheet();
  count_->setText(sheet.briefs.empty() ? QString() : text(work_.sheets().summary().countText));
  showParts();  // without counts, the news begin where they would
  if (!making_.isRunning()) state_->setText(restText());
}

/// What came of a run: in the line, and what went wrong as a problem that stays.
void StripBar::tellRun(const MadeReport& report) {
  const RunSummary& summary = report.summary;
  QString words = text(counted(summary.written, "file")) +
                  tr(" made in %1 s").arg(std::max(0.1, summary.seconds), 0, 'f', 1);
  if (summary.renamed > 0) words += tr(", %1 renamed").arg(summary.renamed);
  if (summary.rewritten > 0) words += tr(", %1 with new data").arg(summary.rewritten);
  if (summary.cancelled) words = tr("stopped: ") + words;
  if (summary.failed > 0) words += tr(", %1 failed").arg(summary.failed);
  const QString sums = sumsText(report.sums);
  if (!sums.isEmpty()) words += "; " + sums;
  const auto clipped =
      std::count_if(report.remarks.begin(), report.remarks.end(),
                    [](const MadeRemark& remark) { return remark.code == RemarkCode::Clipped; });
  const std::size_t others = report.remarks.size() - static_cast<std::size_t>(clipped);
  if (clipped > 0) words += "; " + tr("%1 over full scale").arg(clipped);
  if (others > 0) words += "; " + tr("%1 on the sound in Proof").arg(text(counted(others, "remark")));
  QStringList lines;
  for (const Remark& remark : summary.remarks) lines << text(remark.text);
  for (const MadeFailure& failure : report.failed) lines << failure.file + ": " + failure.why;
  if (report.failed.empty())
    for (const MadeSum& sum : report.sums)
      if (sum.outcome.verdict == SumVerdict::Differs)
        lines << text(sum.briefName + ", " + sum.span.name + ": " + sum.outcome.text);
  say(words, !lines.isEmpty());
  ran_ = words;
  if (lines.size() > kMostTold)
    lines = lines.mid(0, kMostTold) << tr("and %1 more").arg(lines.size() - kMostTold);
  if (!lines.isEmpty()) work_.news().tell(lines.join('\n'));
}

/// What was found of what a run made, behind its news.
void StripBar::tellFindings() {
  const std::size_t found = work_.checking().open();
  if (ran_.isEmpty() || found == 0 || work_.checking().isChecking()) return;
  say(ran_ + "; " + tr("%1 in Proof").arg(text(counted(found, "finding"))), true);
}

void StripBar::say(const QString& words, bool isProblem) {
  ran_.clear();
  news_ =
      words.isEmpty() ? QString()
      : isProblem
          ? QString("<span style='color:%1'>%2</span>").arg(colour(Role::Fault).name(), words.toHtmlEscaped())
          : words.toHtmlEscaped();
  state_->setToolTip(words);
  if (!making_.isRunning()) state_->setText(restText());
}

QString StripBar::restText() const {
  const SheetCounts& counts = work_.sheets().counts();
  QStringList parts;
  if (!news_.isEmpty()) parts << news_;
  const auto add = [&](std::size_t count, const QString& words) {
    if (count > 0) parts << QString::number(count) + " " + words;
  };
  add(counts.upToDate, tr("up to date"));
  add(counts.stale, tr("stale"));
  add(counts.renamed, tr("renamed"));
  add(counts.olderEngine, tr("of an older engine"));
  add(counts.changed, tr("changed by others"));
  add(counts.foreign, tr("foreign"));
  add(counts.fault, tr("cannot be made"));
  add(counts.leftOver, tr("left over"));
  if (counts.remarks > 0)
    parts << QString::fromStdString(counted(counts.remarks, "row")) + tr(" with remarks");
  if (counts.bytes > 0)
    parts << tr("%1 MB").arg(static_cast<double>(counts.bytes) / 1e6, 0, 'f',
                             counts.bytes < 10'000'000 ? 1 : 0);
  return fitting(parts);
}

/// As many of the first ones as there is room for; none is cut.
QString StripBar::fitting(QStringList parts) const {
  static const QRegularExpression kTag("<[^>]*>");
  const auto width = [&] {
    return state_->fontMetrics().horizontalAdvance(parts.join("  ·  ").remove(kTag));
  };
  while (parts.size() > 1 && state_->width() > 0 && width() > state_->width()) parts.removeLast();
  return parts.join("  ·  ");
}

void StripBar::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  fitLater();
}

/// Once everything has its place.
void StripBar::fitLater() {
  QTimer::singleShot(0, this, [this] {
    if (!making_.isRunning()) state_->setText(restText());
  });
}

}  // namespace octaphon::app
