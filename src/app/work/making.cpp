#include "app/work/making.h"

namespace octaphon::app {

Making::~Making() {
  stop();
  if (thread_.joinable()) thread_.join();
}

void Making::start(RunRequest request) {
  if (isRunning()) return;
  control_ = std::make_unique<RunControl>();
  rate_ = request.sheet->rate;
  clock_.start();
  emit started();
  thread_ = std::thread([this, request = std::move(request)] {
    MadeReport report;
    const auto note = [&](const RowOutcome& outcome) {
      const Row& row = request.sheet->rows[outcome.row];
      const QString file = QString::fromStdString(row.file);
      if (outcome.result)
        report.made.insert(file);
      else
        report.failed.emplace_back(file, QString::fromStdString(outcome.result.error().describe()));
      if (const auto found = remarkOf(*request.sheet, outcome)) {
        const PlannedBrief& brief = request.sheet->briefOf(row);
        report.remarks.push_back(
            {file, brief.brief.name, request.sheet->spanOf(row), outcome.peak, found->text});
      }
    };
    const auto noteSum = [&](const SumOutcome& sum) {
      const PlannedBrief& brief = request.sheet->briefs[sum.brief];
      report.sums.push_back({brief.brief.id, brief.brief.name, brief.spans[sum.span], sum});
    };
    report.summary = makeFiles(request, cache_, *control_, note, noteSum);
    QMetaObject::invokeMethod(
        this, [this, report] { done(report); }, Qt::QueuedConnection);
  });
}

void Making::stop() {
  if (control_) control_->cancel();
}

void Making::pause(bool on) {
  if (control_) control_->pause(on);
}

ProgressFigures Making::figures() const {
  return control_ ? figuresOf(*control_, rate_, static_cast<double>(clock_.elapsed()) / 1000)
                  : ProgressFigures{};
}

void Making::done(const MadeReport& report) {
  thread_.join();
  control_.reset();
  emit finished(report);
}

}  // namespace octaphon::app
