// The window's sheet and the making of files.
#include <QDesktopServices>
#include <QDir>
#include <QUrl>

#include "base/unicode.h"
#include "main_window.h"
#include "text.h"

namespace octaphon::app {

void MainWindow::replan() { keeper_.request(document_.session(), briefs_->ticked()); }

/// Which brief of the sheet is shown as tiles; past the last where it is not among them.
std::size_t MainWindow::shownBrief() const {
  const auto sheet = keeper_.sheet();
  const int current = briefs_->current();
  const auto& briefs = document_.session()->briefs;
  if (current >= 0 && static_cast<std::size_t>(current) < briefs.size())
    for (std::size_t i = 0; i < sheet->briefs.size(); ++i)
      if (sheet->briefs[i].brief.id == briefs[static_cast<std::size_t>(current)].id) return i;
  return sheet->briefs.size();
}

void MainWindow::sheetChanged() {
  const auto sheet = keeper_.sheet();
  timeline_->setTiles(sheet, shownBrief());
  signal_->setPlugins(keeper_.plugins());
  signal_->setBrief(briefs_->current() < 0 ? SIZE_MAX : static_cast<std::size_t>(briefs_->current()));
  search_->setSheet(sheet);
  sheetView_->setSheet(sheet);
  outline_->setSheet(*sheet);
  briefs_->setSheet(*sheet);
  strip_->setSheet(*sheet);
}

/// Rows are chosen from the newest sheet: at once, or when it is there.
void MainWindow::makeChosen(const ChooseRows& choose) {
  if (keeper_.isPlanning())
    waitingChoice_ = choose;
  else
    makeRows(choose(*keeper_.sheet()));
}

void MainWindow::makeRows(const std::vector<std::size_t>& rows) {
  if (rows.empty() || making_.isRunning() || !keeper_.facts() || keeper_.isPlanning()) return;
  problem_->hide();
  make_->setEnabled(false);
  makeAll_->setEnabled(false);
  RunRequest request;
  request.session = keeper_.session();
  request.facts = keeper_.facts();
  request.sheet = keeper_.sheet();
  request.plugins = keeper_.plugins();
  request.pluginPasses = &pluginPasses_;
  request.rows = rows;
  making_.start(std::move(request));
}

void MainWindow::runFinished(const MadeReport& report) {
  const RunSummary& summary = report.summary;
  QString words = QString::fromStdString(counted(summary.written, "file")) +
                  tr(" made in %1 s").arg(std::max(0.1, summary.seconds), 0, 'f', 1);
  if (summary.cancelled) words = tr("stopped: ") + words;
  if (summary.failed > 0) words += tr(", %1 failed").arg(summary.failed);
  const QString sums = sumsText(report.sums);
  if (!sums.isEmpty()) words += "; " + sums;
  if (!report.remarks.empty()) words += "; " + tr("%1 over full scale").arg(report.remarks.size());
  proof_->take(report);
  QStringList lines;
  for (const MadeSum& sum : report.sums)
    if (sum.outcome.verdict == SumVerdict::Differs)
      lines << text(sum.briefName + ", " + sum.span.name + ": " + sum.outcome.text);
  strip_->say(words, summary.failed > 0 || !lines.isEmpty());
  if (lines.size() > 5) lines = lines.mid(0, 5) << tr("and %1 more").arg(lines.size() - 5);
  if (!lines.isEmpty() && report.failed.empty()) showProblem(lines.join("\n"));
  if (!report.failed.empty()) {
    lines.clear();
    for (std::size_t i = 0; i < std::min<std::size_t>(report.failed.size(), 5); ++i)
      lines << report.failed[i].first + ": " + report.failed[i].second;
    if (report.failed.size() > 5) lines << tr("and %1 more").arg(report.failed.size() - 5);
    showProblem(lines.join("\n"));
  }
  keeper_.refresh();
}

void MainWindow::openFolder() {
  const Sheet& sheet = *keeper_.sheet();
  const int current = briefs_->current();
  for (const PlannedBrief& brief : sheet.briefs)
    if (current >= 0 && brief.brief.id == document_.session()->briefs[static_cast<std::size_t>(current)].id) {
      const QString folder = text(brief.base.full().string());
      if (QDir(folder).exists())
        QDesktopServices::openUrl(QUrl::fromLocalFile(folder));
      else
        strip_->say(tr("The folder is not there yet: make the files first"), false);
    }
}

}  // namespace octaphon::app
