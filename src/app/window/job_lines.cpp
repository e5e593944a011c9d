#include "app/window/job_lines.h"

#include <algorithm>
#include <QDateTime>
#include <QHBoxLayout>

namespace octaphon::app {
namespace {

constexpr int kLineLookMs = 100;
constexpr qint64 kMomentMs = 250;  // what ends sooner is not shown: the window would only flicker
constexpr int kBarSteps = 1000;

}  // namespace

JobLines::JobLines(LongJobs& jobs, QWidget* parent) : QWidget(parent), jobs_(jobs) {
  setObjectName("jobs");
  setAttribute(Qt::WA_StyledBackground);
  layout_ = new QVBoxLayout(this);
  layout_->setContentsMargins(14, 4, 14, 4);
  layout_->setSpacing(2);
  timer_.setInterval(kLineLookMs);
  connect(&timer_, &QTimer::timeout, this, &JobLines::showJobs);
  connect(&jobs_, &LongJobs::changed, this, &JobLines::follow);
  hide();
}

QStringList JobLines::words() const {
  QStringList all;
  for (const Line& line : lines_) all << line.words->text();
  return all;
}

/// Lines of what has ended go at once; new ones wait a moment.
void JobLines::follow() {
  const auto isThere = [&](quint64 id) {
    return std::any_of(jobs_.jobs().begin(), jobs_.jobs().end(),
                       [&](const LongJobs::Job& job) { return job.id == id; });
  };
  std::erase_if(seen_, [&](const auto& seen) { return !isThere(seen.first); });
  std::erase_if(lines_, [&](const Line& line) {
    if (isThere(line.job)) return false;
    line.row->hide();
    line.row->deleteLater();
    return true;
  });
  for (const LongJobs::Job& job : jobs_.jobs())
    if (std::none_of(seen_.begin(), seen_.end(), [&](const auto& seen) { return seen.first == job.id; }))
      seen_.emplace_back(job.id, QDateTime::currentMSecsSinceEpoch());
  if (jobs_.jobs().empty())
    timer_.stop();
  else if (!timer_.isActive())
    timer_.start();
  setVisible(!lines_.empty());
}

void JobLines::showJobs() {
  const qint64 now = QDateTime::currentMSecsSinceEpoch();
  for (const LongJobs::Job& job : jobs_.jobs()) {
    const auto seen =
        std::find_if(seen_.begin(), seen_.end(), [&](const auto& one) { return one.first == job.id; });
    if (seen == seen_.end() || now - seen->second < kMomentMs) continue;
    auto line =
        std::find_if(lines_.begin(), lines_.end(), [&](const Line& one) { return one.job == job.id; });
    if (line == lines_.end()) line = lines_.insert(lines_.end(), makeLine(job));
    const double portion = job.portion();
    line->bar->setRange(0, portion < 0 ? 0 : kBarSteps);  // 0 to 0: it moves without saying how far
    if (portion >= 0) line->bar->setValue(static_cast<int>(portion * kBarSteps));
  }
  setVisible(!lines_.empty());
}

JobLines::Line JobLines::makeLine(const LongJobs::Job& job) {
  auto* row = new QWidget(this);
  auto* words = new QLabel(job.words + " …", row);
  auto* bar = new QProgressBar(row);
  bar->setTextVisible(false);
  bar->setFixedSize(150, 10);
  bar->setAccessibleName(job.words);
  auto* stop = new QPushButton(tr("Stop"), row);
  stop->setAccessibleName(tr("Stop: %1").arg(job.words));
  connect(stop, &QPushButton::clicked, this, [this, stop, id = job.id] {
    stop->setEnabled(false);
    jobs_.stop(id);
  });
  auto* layout = new QHBoxLayout(row);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(12);
  layout->addWidget(words, 1);
  layout->addWidget(bar);
  layout->addWidget(stop);
  layout_->addWidget(row);
  row->show();
  return {job.id, row, words, bar};
}

}  // namespace octaphon::app
