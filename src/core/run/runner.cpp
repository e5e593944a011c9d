#include "run/runner.h"

#include <tbb/global_control.h>
#include <tbb/parallel_for_each.h>
#include <tbb/task_arena.h>

#include <algorithm>
#include <chrono>
#include <map>
#include <optional>
#include <set>

#include "base/decibels.h"
#include "base/unicode.h"
#include "run/handle_budget.h"
#include "run/sweep.h"
#include "run/targets.h"

namespace octaphon {
namespace {

using Clock = std::chrono::steady_clock;

double secondsSince(Clock::time_point begin) {
  return std::chrono::duration<double>(Clock::now() - begin).count();
}

class Run {
 public:
  Run(const RunRequest& request, MediaCache& cache, RunControl& control,
      const std::function<void(const RowOutcome&)>& report,
      const std::function<void(const SumOutcome&)>& sums)
      : request_(request),
        session_(*request.session),
        sheet_(*request.sheet),
        cache_(cache),
        control_(control),
        report_(report),
        reportSum_(sums),
        context_(session_, *request.facts, request.plugins.get()),
        targets_(sheet_) {}

  RunSummary run() {
    const Clock::time_point begin = Clock::now();
    raiseFileLimit();
    budget_ = handleBudget(request_.jobs > 0 ? request_.jobs : tbb::this_task_arena::max_concurrency());
    const tbb::global_control limit(tbb::global_control::max_allowed_parallelism,
                                    static_cast<std::size_t>(std::max(budget_.jobs, 2)));
    tbb::task_arena arena(budget_.jobs);
    arena.execute([&] { work(); });
    control_.stage = RunStage::Done;
    summary_.cancelled = control_.cancelled;
    summary_.seconds = secondsSince(begin);
    return summary_;
  }

 private:
  void work() {
    std::vector<std::size_t> rows = refuseFaults();
    const auto refuse = [&](std::size_t row, const Error& error) {
      reportRow(row, tl::unexpected(error), true);
    };
    sweepFolders(sheet_);
    targets_.open(rows, refuse);
    targets_.checkSpace(rows, refuse);
    for (const std::size_t row : rows) control_.framesAll += sheet_.rows[row].frames;
    control_.filesAll = rows.size();
    const auto passes = passesOf(rows);
    prepareMedia(passes);
    control_.stage = RunStage::Sound;
    {
      Publisher publisher(request_.sync, budget_.waiting,
                          [&](std::size_t row, const Result<>& outcome) { reportRow(row, outcome); });
      const auto groups = groupsOf(passes);
      tbb::parallel_for_each(groups.begin(), groups.end(), [&](const std::vector<PlannedPass>& group) {
        const auto done = [&](PassResult result) { take(std::move(result), publisher); };
        const PassSetting setting{sheet_, context_.signal, media_, control_, request_.pluginPasses};
        if (group.size() == 1)
          done(runPass(setting, group.front()));
        else
          runSweep(setting, group, done);
      });
      control_.stage = RunStage::Finishing;
      publisher.finish();
    }
    summary_.remarks = targets_.close();
    if (cache_.size() > cache_.limit()) cache_.shrinkTo(cache_.limit());
  }

  void failRow(std::size_t row, Error error) { reportRow(row, tl::unexpected(std::move(error))); }

  void reportRow(std::size_t row, const Result<>& outcome, bool concernsFolder = false) {
    const std::scoped_lock lock(mutex_);
    ++control_.filesDone;
    ++(outcome ? summary_.written : summary_.failed);
    if (outcome) summary_.soundSeconds += static_cast<double>(sheet_.rows[row].frames) / sheet_.rate;
    const auto level = levels_.find(row);
    report_({row, outcome, level == levels_.end() ? 0 : level->second.peak,
             level == levels_.end() ? 0 : level->second.clipped, concernsFolder});
  }

  /// Rows with a fault are never made, however they were asked for.
  std::vector<std::size_t> refuseFaults() {
    std::vector<std::size_t> good;
    for (const std::size_t row : request_.rows) {
      if (const Remark* fault = sheet_.faultOf(sheet_.rows[row]))
        failRow(row, {ErrorCode::BadValue, sheet_.rows[row].file, fault->text, {}});
      else
        good.push_back(row);
    }
    return good;
  }

  std::vector<PlannedPass> passesOf(const std::vector<std::size_t>& rows) {
    std::map<PassKey, std::vector<PassRow>> byKey;
    for (const std::size_t row : rows)
      byKey[passKeyOf(sheet_, sheet_.rows[row])].push_back({row, &targets_.folderOf(row)});
    std::vector<PlannedPass> passes;
    const std::size_t most = budget_.rowsPerPass;
    for (auto& [key, passRows] : byKey)
      for (std::size_t i = 0; i < passRows.size(); i += most)
        passes.push_back(
            {key,
             {passRows.begin() + static_cast<std::ptrdiff_t>(i),
              passRows.begin() + static_cast<std::ptrdiff_t>(std::min(passRows.size(), i + most))},
             i == 0});
    return passes;
  }

  /// Passes that go together: those that are run up to from the session's start share one sweep.
  std::vector<std::vector<PlannedPass>> groupsOf(const std::vector<PlannedPass>& passes) const {
    std::vector<std::vector<PlannedPass>> groups;
    std::map<Counting, std::size_t> sweeps;
    for (const PlannedPass& pass : passes) {
      const bool isSwept = pass.key.clipSet.empty() && pass.key.counting.runUp == kMaxFrame &&
                           context_.finder.runUpOf(pass.key.span(), pass.key.counting) > 0;
      if (!isSwept) {
        groups.push_back({pass});
        continue;
      }
      const auto [found, isNew] = sweeps.try_emplace(pass.key.counting, groups.size());
      if (isNew) groups.emplace_back();
      groups[found->second].push_back(pass);
    }
    return groups;
  }

  void prepareMedia(const std::vector<PlannedPass>& passes) {
    std::set<std::string> needed;
    for (const PlannedPass& pass : passes)
      for (const HeardClip& heard : context_.finder.heardIn(pass.key.span(), pass.key.counting))
        needed.insert(context_.finder.clipOf(heard).medium);
    control_.stage = RunStage::Media;
    control_.mediaAll = needed.size();
    media_ = ReadableMedia::prepare(session_, *request_.facts, cache_, {needed.begin(), needed.end()},
                                    &control_.cancelled, [&] { ++control_.mediaDone; });
  }

  void take(PassResult result, Publisher& publisher) {
    std::map<ReceiptJournal*, std::vector<FinishedFile>> byReceipt;
    for (RowResult& row : result.rows) {
      if (!row.file) {
        failRow(row.row, std::move(row.file).error());
        continue;
      }
      {
        const std::scoped_lock lock(mutex_);
        levels_[row.row] = row.level;
      }
      byReceipt[&targets_.journalOf(row.row)].push_back(std::move(*row.file));
    }
    for (auto& [receipt, files] : byReceipt) publisher.publish(*receipt, std::move(files));
    if (reportSum_) {
      const std::scoped_lock lock(mutex_);
      for (const SumOutcome& sum : result.sums) reportSum_(sum);
    }
  }

  const RunRequest& request_;
  const Session& session_;
  const Sheet& sheet_;
  MediaCache& cache_;
  RunControl& control_;
  const std::function<void(const RowOutcome&)>& report_;
  const std::function<void(const SumOutcome&)>& reportSum_;
  SessionContext context_;
  HandleBudget budget_{};
  ReadableMedia media_;
  Targets targets_;
  std::mutex mutex_;
  std::map<std::size_t, Level> levels_;
  RunSummary summary_;
};

}  // namespace

std::optional<Remark> remarkOf(const Sheet& sheet, const RowOutcome& outcome) {
  if (outcome.clipped == 0) return std::nullopt;
  const Row& row = sheet.rows[outcome.row];
  const bool isLayer =
      sheet.sourceOf(row).kind != PlannedSource::Kind::Mix && sheet.briefOf(row).sources.size() > 1;
  // Layers keep their sum only under one gain.
  return Remark{Severity::Warning, RemarkCode::Clipped, row.file,
                counted(outcome.clipped, "sample") + " over full scale, peak " +
                    decibelText(decibelsOf(outcome.peak)) + " dBFS. Choose 32 bit float, or " +
                    (isLayer ? "lower main's fader, which is one gain for the whole set" : "lower a fader")};
}

std::vector<std::size_t> rowsToMake(const Sheet& sheet, bool foreign) {
  std::vector<std::size_t> rows;
  for (std::size_t i = 0; i < sheet.rows.size(); ++i) {
    const RowState state = sheet.rows[i].state;
    if (isMakeable(sheet, sheet.rows[i]) ||
        (foreign && (state == RowState::Changed || state == RowState::Foreign)))
      rows.push_back(i);
  }
  return rows;
}

std::vector<std::size_t> rowsToMakeAgain(const Sheet& sheet) {
  std::vector<std::size_t> rows;
  for (std::size_t i = 0; i < sheet.rows.size(); ++i)
    if (mayBeMadeAgain(sheet, sheet.rows[i])) rows.push_back(i);
  return rows;
}

RunSummary makeFiles(const RunRequest& request, MediaCache& cache, RunControl& control,
                     const std::function<void(const RowOutcome&)>& report,
                     const std::function<void(const SumOutcome&)>& sums) {
  return Run(request, cache, control, report, sums).run();
}

}  // namespace octaphon
