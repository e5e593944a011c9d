#include "run/runner.h"

#include <sys/resource.h>
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
#include "run/sweep.h"

namespace octaphon {
namespace {

using Clock = std::chrono::steady_clock;

double secondsSince(Clock::time_point begin) {
  return std::chrono::duration<double>(Clock::now() - begin).count();
}

struct Target {
  SafeFolder folder;
  ReceiptJournal journal;
};

/// Rows that may have their files open at once, written or waiting for their names. A row needs two handles,
/// of its file and its folder; clips need some too.
std::size_t mostOpenRows() {
  rlimit limit{};
  if (::getrlimit(RLIMIT_NOFILE, &limit) != 0) return 128;
  return std::max<std::size_t>(16, std::min<std::size_t>(limit.rlim_cur, 65536) / 8);
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
        context_(session_, *request.facts, request.plugins.get()) {}

  RunSummary run() {
    const Clock::time_point begin = Clock::now();
    raiseFileLimit();
    jobs_ = request_.jobs > 0 ? request_.jobs : tbb::this_task_arena::max_concurrency();
    const tbb::global_control limit(tbb::global_control::max_allowed_parallelism,
                                    static_cast<std::size_t>(std::max(jobs_, 2)));
    tbb::task_arena arena(jobs_);
    arena.execute([&] { work(); });
    control_.stage = RunStage::Done;
    summary_.cancelled = control_.cancelled;
    summary_.seconds = secondsSince(begin);
    return summary_;
  }

 private:
  void work() {
    std::vector<std::size_t> rows = refuseFaults();
    openTargets(rows);
    checkSpace(rows);
    for (const std::size_t row : rows) control_.framesAll += sheet_.rows[row].frames;
    control_.filesAll = rows.size();
    const auto passes = passesOf(rows);
    prepareMedia(passes);
    control_.stage = RunStage::Sound;
    {
      Publisher publisher(request_.sync, mostOpenRows(),
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
    for (auto& [base, target] : targets_) (void)target.journal.compact(target.folder);
    if (cache_.size() > cache_.limit()) cache_.shrinkTo(cache_.limit());
  }

  void failRow(std::size_t row, Error error) { reportRow(row, tl::unexpected(std::move(error))); }

  void reportRow(std::size_t row, const Result<>& outcome) {
    const std::scoped_lock lock(mutex_);
    ++control_.filesDone;
    ++(outcome ? summary_.written : summary_.failed);
    if (outcome) summary_.soundSeconds += static_cast<double>(sheet_.rows[row].frames) / sheet_.rate;
    const auto level = levels_.find(row);
    report_({row, outcome, level == levels_.end() ? 0 : level->second.peak,
             level == levels_.end() ? 0 : level->second.clipped});
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

  /// Opens every base folder and locks its receipt; rows whose folder cannot be had fail.
  void openTargets(std::vector<std::size_t>& rows) {
    std::map<std::filesystem::path, Error> refused;
    std::set<std::pair<std::filesystem::path, std::string>> folders;
    std::erase_if(rows, [&](std::size_t row) {
      const std::filesystem::path& base = baseOf(row);
      if (!targets_.contains(base) && !refused.contains(base)) {
        if (auto target = openTarget(base))
          targets_.emplace(base, std::move(*target));
        else
          refused.emplace(base, target.error());
      }
      const auto why = refused.find(base);
      if (why != refused.end()) {
        failRow(row, why->second);
        return true;
      }
      const std::string& file = sheet_.rows[row].file;
      const std::size_t slash = file.rfind('/');
      folders.insert({base, slash == std::string::npos ? "" : file.substr(0, slash)});
      return false;
    });
    for (const auto& [base, folder] : folders) targets_.at(base).folder.removeTemporaries(folder);
  }

  static Result<Target> openTarget(const std::filesystem::path& base) {
    OCTAPHON_ASSIGN(SafeFolder folder, SafeFolder::open(base, true));
    OCTAPHON_ASSIGN(ReceiptJournal journal, ReceiptJournal::open(folder));
    return Target{std::move(folder), std::move(journal)};
  }

  const std::filesystem::path& baseOf(std::size_t row) const { return sheet_.briefOf(sheet_.rows[row]).base; }

  /// Refuses before anything is written what the disk has no room for.
  void checkSpace(std::vector<std::size_t>& rows) {
    std::map<std::filesystem::path, std::uint64_t> needed;
    for (const std::size_t row : rows) {
      const Row& r = sheet_.rows[row];
      needed[baseOf(row)] += dataBytes(r.encoding, r.frames, r.channels) + 4096;
    }
    for (const auto& [base, bytes] : needed) {
      const std::uint64_t free = targets_.at(base).folder.freeSpace();
      if (bytes <= free) continue;
      const Error error{ErrorCode::DiskFull, base.string(),
                        "the files need " + std::to_string(bytes / 1'000'000 + 1) + " MB, there are " +
                            std::to_string(free / 1'000'000) + " MB",
                        "Make space or choose another folder"};
      std::erase_if(rows, [&, full = base](std::size_t row) {
        if (baseOf(row) != full) return false;
        failRow(row, error);
        return true;
      });
    }
  }

  std::vector<PlannedPass> passesOf(const std::vector<std::size_t>& rows) {
    std::map<PassKey, std::vector<PassRow>> byKey;
    for (const std::size_t row : rows)
      byKey[passKeyOf(sheet_, sheet_.rows[row])].push_back({row, &targets_.at(baseOf(row)).folder});
    std::vector<PlannedPass> passes;
    const std::size_t most = std::max<std::size_t>(8, mostOpenRows() / static_cast<std::size_t>(jobs_));
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
    std::map<std::filesystem::path, std::vector<FinishedFile>> byBase;
    for (RowResult& row : result.rows) {
      if (!row.file) {
        failRow(row.row, std::move(row.file).error());
        continue;
      }
      {
        const std::scoped_lock lock(mutex_);
        levels_[row.row] = row.level;
      }
      byBase[baseOf(row.row)].push_back(std::move(*row.file));
    }
    for (auto& [base, files] : byBase) publisher.publish(targets_.at(base).journal, std::move(files));
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
  int jobs_ = 1;
  ReadableMedia media_;
  std::map<std::filesystem::path, Target> targets_;
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
