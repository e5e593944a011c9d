#include "app/work/making.h"

#include "app/work/settings.h"
#include "base/decibels.h"
#include "run/check_sheet.h"

namespace octaphon::app {
namespace {

constexpr std::size_t kMostReplaced = 128;  // files that are open at once, to be compared
constexpr std::size_t kMostHeld = 48;       // of them, that stay open to be heard

/// The level that a remark is about, in dBFS.
double figureOf(const RowOutcome& outcome, RemarkCode code) {
  switch (code) {
    case RemarkCode::TailLimited: return outcome.rungOut.leftDb;
    case RemarkCode::CutAtExact: return decibelsOf(outcome.facts.cutLevel);
    case RemarkCode::Offset: return decibelsOf(outcome.facts.offset);
    case RemarkCode::ClipStep: {
      float loudest = 0;
      for (const ClipStep& step : outcome.steps) loudest = std::max(loudest, step.level);
      return decibelsOf(loudest);
    }
    default: return decibelsOf(outcome.level.peak);
  }
}

}  // namespace

Making::Making(MediaCache& cache, QObject* parent) : QObject(parent), cache_(cache) {
  stageTimer_.setInterval(100);
  connect(&stageTimer_, &QTimer::timeout, this, &Making::lookAtStages);
}

Making::~Making() {
  stop();
  if (thread_.joinable()) thread_.join();
}

void Making::start(RunRequest request) {
  if (isRunning()) return;
  control_ = std::make_unique<RunControl>();
  isRunning_ = true;
  runSheet_ = request.sheet;
  alike_.reset();
  stagesSeen_ = 0;
  rate_ = request.sheet->rate;
  clock_.start();
  stageTimer_.start();
  emit started();
  const ReadsBack readsBack = settings::readsBack();
  std::shared_ptr<ReadBehind> behind;
  if (readsBack != ReadsBack::None) behind = std::make_shared<ReadBehind>(kMostHeld);
  if (readsBack == ReadsBack::All) request.mostReplaced = kMostReplaced;
  thread_ = std::thread([this, request = std::move(request), behind, readsBack] {
    MadeReport report;
    report.sheet = request.sheet;
    report.behind = behind;
    report.behindDecodes = readsBack == ReadsBack::All;
    const auto note = [&](const RowOutcome& outcome) {
      const Row& row = request.sheet->rows[outcome.row];
      const QString file = QString::fromStdString(row.file);
      if (outcome.result) {
        const PlannedBrief& brief = request.sheet->briefOf(row);
        report.made.push_back({file, QString::fromStdString(row.from), brief.base, brief.brief.id,
                               request.sheet->keyOf(row), outcome.deed, row.state == RowState::ToMake});
        if (behind) {
          WrittenFile written = writtenFileOf(*request.sheet, outcome);
          written.asked.decodes = report.behindDecodes;
          behind->take(std::move(written));
        }
      } else {
        report.failed.push_back({file, QString::fromStdString(outcome.result.error().describe()),
                                 request.sheet->briefOf(row).brief.name, request.sheet->keyOf(row),
                                 request.sheet->spanOf(row)});
      }
      for (const Remark& found : remarksOf(*request.session, *request.sheet, outcome))
        report.remarks.push_back({file, request.sheet->briefOf(row).brief.name, request.sheet->spanOf(row),
                                  figureOf(outcome, found.code), found.code, found.severity != Severity::Note,
                                  found.text});
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
  if (isRunning_) control_->cancel();
}

void Making::pause(bool on) {
  if (isRunning_) control_->pause(on);
}

ProgressFigures Making::figures() const {
  return isRunning_ ? figuresOf(*control_, rate_, static_cast<double>(clock_.elapsed()) / 1000)
                    : ProgressFigures{};
}

void Making::done(const MadeReport& report) {
  thread_.join();
  isRunning_ = false;
  stageTimer_.stop();
  lookAtStages();
  emit finished(report);
}

void Making::lookAtStages() {
  if (const unsigned version = control_->stages.version(); std::exchange(stagesSeen_, version) != version)
    emit stagesChanged();
}

RowStage Making::stageOf(const Sheet& sheet, std::size_t row) const {
  if (!control_) return RowStage::None;
  if (&sheet == runSheet_.get() || &sheet == alike_.get()) return control_->stages.of(row);
  const auto ofRun = runSheet_->find(sheet.keyOf(sheet.rows[row]));
  return ofRun ? control_->stages.of(*ofRun) : RowStage::None;
}

void Making::follow(std::shared_ptr<const Sheet> sheet) {
  if (!control_) return;
  if (isRunning_) {
    alike_ = hasSameRows(*runSheet_, *sheet) ? std::move(sheet) : nullptr;
    return;
  }
  control_.reset();
  runSheet_.reset();
  alike_.reset();
  emit stagesChanged();
}

}  // namespace octaphon::app
