#include "strip_bar.h"

#include <QAction>
#include <QHBoxLayout>

#include "base/unicode.h"
#include "theme.h"

namespace octaphon::app {
namespace {

QPushButton* buttonFor(QAction* action, const char* name, QWidget* parent) {
  auto* button = new QPushButton(action->text(), parent);
  button->setObjectName(name);
  button->setAutoDefault(true);
  const auto follow = [button, action] {
    button->setText(action->text());
    button->setEnabled(action->isEnabled());
    button->setToolTip(action->toolTip() + "  " + action->shortcut().toString(QKeySequence::NativeText));
  };
  QObject::connect(action, &QAction::changed, button, follow);
  QObject::connect(button, &QPushButton::clicked, action, &QAction::trigger);
  follow();
  return button;
}

}  // namespace

StripBar::StripBar(Making& making, QAction* make, QAction* makeAll, QWidget* parent)
    : QWidget(parent), making_(making), makeAction_(make), allAction_(makeAll) {
  setObjectName("bar");
  setAttribute(Qt::WA_StyledBackground);
  setFixedHeight(46);
  count_ = new QLabel(this);
  count_->setFont(Theme::strong());
  count_->setAccessibleName(tr("How many files, and why"));
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
  all_ = buttonFor(makeAll, "quiet", this);
  make_ = buttonFor(make, "make", this);
  auto* layout = new QHBoxLayout(this);
  layout->setContentsMargins(14, 0, 14, 0);
  layout->setSpacing(12);
  layout->addWidget(count_);
  layout->addSpacing(8);
  layout->addWidget(state_, 1);
  for (QWidget* widget :
       {static_cast<QWidget*>(bar_), static_cast<QWidget*>(pause_), static_cast<QWidget*>(stop_),
        static_cast<QWidget*>(all_), static_cast<QWidget*>(make_)})
    layout->addWidget(widget);
  timer_.setInterval(80);
  connect(&timer_, &QTimer::timeout, this, &StripBar::tick);
  connect(&making_, &Making::started, this, [this] { setRunning(true); });
  connect(&making_, &Making::finished, this, [this] { setRunning(false); });
  connect(stop_, &QPushButton::clicked, this, [this] { making_.stop(); });
  connect(pause_, &QPushButton::clicked, this, [this] {
    making_.pause(!making_.isPaused());
    pause_->setText(making_.isPaused() ? tr("Go on") : tr("Pause"));
  });
  setRunning(false);
}

void StripBar::setRunning(bool running) {
  for (QWidget* widget :
       {static_cast<QWidget*>(bar_), static_cast<QWidget*>(pause_), static_cast<QWidget*>(stop_)})
    widget->setVisible(running);
  all_->setVisible(!running && counts_.again > 0);
  make_->setVisible(!running);
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

void StripBar::setSheet(const Sheet& sheet) {
  counts_ = countRows(sheet);
  count_->setText(sheet.briefs.empty() ? QString() : QString::fromStdString(octaphon::countText(sheet)));
  makeAction_->setText(counts_.makeable == 0
                           ? tr("Nothing to make")
                           : tr("Make %1").arg(QString::fromStdString(counted(counts_.makeable, "file"))));
  makeAction_->setEnabled(counts_.makeable > 0 && !making_.isRunning());
  allAction_->setText(tr("All %1").arg(counts_.again));
  allAction_->setEnabled(counts_.again > 0 && !making_.isRunning());
  all_->setVisible(counts_.again > 0 && !making_.isRunning());
  if (!making_.isRunning()) state_->setText(restText());
}

void StripBar::say(const QString& words, bool isProblem) {
  news_ =
      isProblem
          ? QString("<span style='color:%1'>%2</span>").arg(colour(Role::Fault).name(), words.toHtmlEscaped())
          : words.toHtmlEscaped();
  state_->setToolTip(words);
  if (!making_.isRunning()) state_->setText(restText());
}

QString StripBar::restText() const {
  QStringList parts;
  if (!news_.isEmpty()) parts << news_;
  const auto add = [&](std::size_t count, const QString& words) {
    if (count > 0) parts << QString::number(count) + " " + words;
  };
  add(counts_.upToDate, tr("up to date"));
  add(counts_.stale, tr("stale"));
  add(counts_.changed, tr("changed by others"));
  add(counts_.foreign, tr("foreign"));
  add(counts_.fault, tr("cannot be made"));
  if (counts_.remarks > 0)
    parts << QString::fromStdString(counted(counts_.remarks, "row")) + tr(" with remarks");
  if (counts_.bytes > 0)
    parts << tr("%1 MB").arg(static_cast<double>(counts_.bytes) / 1e6, 0, 'f',
                             counts_.bytes < 10'000'000 ? 1 : 0);
  return parts.join("  ·  ");
}

}  // namespace octaphon::app
