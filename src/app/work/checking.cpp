#include "app/work/checking.h"

#include <algorithm>
#include <iterator>

#include "app/work/settings.h"
#include "app/work/text.h"
#include "base/unicode.h"
#include "brief/row_marks.h"
#include "check/changes.h"
#include "run/check_sheet.h"

namespace octaphon::app {
namespace {

constexpr std::size_t kMostEarlierHeld = 48;  // earlier files that stay open, to be heard

}  // namespace

Checking::Checking(Document& document, SheetKeeper& sheets, Making& making, LongJobs& jobs, News& news,
                   QObject* parent)
    : QObject(parent), document_(document), sheets_(sheets), jobs_(jobs), news_(news) {
  connect(&making, &Making::finished, this, &Checking::checkBehind);
  connect(&document_, &Document::opened, this, &Checking::clear);
  connect(&document_, &Document::changed, this, [this](unsigned parts) {
    if ((parts & kBriefs) != 0) judgeAccepted();
  });
}

void Checking::check() {
  if (isChecking()) return news_.say(tr("Files are being checked already"));
  sheets_.whenPlanned([this] {
    Requests requests = checksOf(*sheets_.sheet(), false);
    for (auto& [base, request] : requests) request.decodes = settings::readsBack() != ReadsBack::Bytes;
    start(tr("Checking what was delivered"), std::move(requests), {});
  });
}

/// What the run made, and what that concerns.
void Checking::checkBehind(const MadeReport& report) {
  if (!report.behind) return;
  Requests requests = checksOf(*report.sheet, true);
  for (auto& [base, request] : requests) {
    request.expectsAll = false;
    request.decodes = report.behindDecodes;
  }
  start(tr("Checking what was made"), std::move(requests), report.behind);
}

void Checking::start(const QString& words, Requests requests, std::shared_ptr<ReadBehind> behind) {
  if (!jobs_.mayStart(LongJobs::Kind::Other)) return;
  ++running_;
  wasDecoded_ = requests.empty() || requests.begin()->second.decodes;
  emit changed();
  jobs_.start<Outcome>(
      LongJobs::Kind::Other, words,
      [requests = std::move(requests), behind](JobControl& job) {
        return checkAll(requests, behind.get(), job);
      },
      [this, session = session_](Outcome outcome) {
        --running_;
        if (session == session_) take(std::move(outcome));
        emit changed();
      });
}

/// Since the edition before, where there is one.
static void addChanges(std::vector<FileChange>& all, const CheckRequest& request, JobControl& job) {
  auto changes = changesSince({request.base, request.briefs, {}, kMostEarlierHeld}, &job);
  if (changes) std::move(changes->changes.begin(), changes->changes.end(), std::back_inserter(all));
}

Checking::Outcome Checking::checkAll(Requests requests, ReadBehind* behind, JobControl& job) {
  Outcome outcome;
  if (behind != nullptr) outcome.behind = behind->finish(&job);
  for (auto& [base, request] : requests) {
    if (job.isStopped) break;
    if (behind != nullptr) {
      const auto reads = outcome.behind->reads.find(base);
      if (reads == outcome.behind->reads.end()) continue;  // nothing was made there
      request.reads = reads->second;
    }
    auto report = checkFolder(request, &job);
    if (report && !report->isStopped)
      outcome.reports[base] = std::make_shared<const CheckReport>(std::move(*report));
    else if (!report)
      outcome.problems << QString::fromStdString(report.error().describe());
    if (behind == nullptr && request.decodes) addChanges(outcome.sinceEdition, request, job);
  }
  outcome.isStopped = job.isStopped;
  return outcome;
}

void Checking::take(Outcome outcome) {
  if (outcome.behind) {
    changes_ = std::move(outcome.behind->changes);
    notCompared_ = outcome.behind->notCompared;
  }
  if (!outcome.sinceEdition.empty()) changes_ = std::move(outcome.sinceEdition);
  std::size_t files = 0, findings = 0;
  for (auto& [base, report] : outcome.reports) {
    files += report->files.size();
    findings += report->open();
    reports_[base] = std::move(report);
  }
  at_ = QDateTime::currentDateTime();
  if (!outcome.problems.isEmpty()) news_.tell(outcome.problems.join('\n'));
  if (outcome.isStopped) return news_.say(tr("Checking was stopped: what was not read is not judged"));
  if (outcome.behind) return;  // told with the run
  if (findings > 0)
    news_.warn(tr("%1 in what was delivered: Proof shows them").arg(text(counted(findings, "finding"))));
  else if (outcome.problems.isEmpty())
    news_.say(tr("%1 checked: nothing found").arg(text(counted(files, "file"))));
}

void Checking::clear() {
  ++session_;
  reports_.clear();
  changes_.clear();
  notCompared_ = 0;
  emit changed();
}

std::size_t Checking::open() const {
  std::size_t count = 0;
  for (const auto& [base, report] : reports_) count += report->open();
  return count;
}

std::size_t Checking::accepted() const {
  std::size_t count = 0;
  for (const auto& [base, report] : reports_) count += report->accepted();
  return count;
}

/// By what the session says now.
void Checking::judgeAccepted() {
  if (reports_.empty()) return;
  std::map<std::string, std::vector<Accepted>> accepted;
  for (const Brief& brief : document_.session()->briefs)
    for (const AcceptedRemark& one : brief.accepted)
      accepted[brief.id].push_back({one.code, one.reason, one.rows});
  for (auto& [base, report] : reports_) {
    auto judged = std::make_shared<CheckReport>(*report);
    for (FileFinding& finding : judged->findings)
      finding.accepted = reasonFor(finding, accepted[finding.row.substr(0, finding.row.find('/'))]);
    report = std::move(judged);
  }
  emit changed();
}

void Checking::changeAccepted(
    const QString& words, const std::vector<FileFinding>& findings,
    const std::function<void(Brief&, const std::string&, const std::vector<std::string>&)>& change) {
  std::map<std::string, std::vector<std::string>> rows;  // by code
  for (const FileFinding& finding : findings)
    if (!finding.row.empty()) rows[std::string(findingInfo(finding.code).name)].push_back(finding.row);
  if (rows.empty()) return;
  document_.edit(words.arg(text(counted(findings.size(), "finding"))), [&](Session& session) {
    for (Brief& brief : session.briefs)
      for (const auto& [code, keys] : rows) change(brief, code, keys);
  });
}

void Checking::accept(const std::vector<FileFinding>& findings, const QString& reason) {
  changeAccepted(tr("Accept %1"), findings,
                 [why = reason.trimmed().toStdString()](Brief& brief, const std::string& code,
                                                        const std::vector<std::string>& keys) {
                   acceptRemarks(brief, code, keys, why);
                 });
}

/// A remark that says the same is not accepted any more either.
void Checking::takeBack(const std::vector<FileFinding>& findings) {
  changeAccepted(tr("Let %1 count again"), findings,
                 [](Brief& brief, const std::string& code, const std::vector<std::string>& keys) {
                   takeBackAccepted(brief, code, keys);
                   const auto found = findingCodeOf(code);
                   if (found && !findingInfo(*found).remark.empty())
                     takeBackAccepted(brief, std::string(findingInfo(*found).remark), keys);
                 });
}

}  // namespace octaphon::app
