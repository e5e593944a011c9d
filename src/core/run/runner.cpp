#include "run/runner.h"

#include <tbb/global_control.h>
#include <tbb/parallel_for.h>
#include <tbb/parallel_for_each.h>
#include <tbb/task_arena.h>

#include <algorithm>
#include <atomic>
#include <chrono>
#include <cmath>
#include <map>
#include <optional>
#include <set>
#include <span>

#include "base/decibels.h"
#include "base/denormals.h"
#include "base/log.h"
#include "base/unicode.h"
#include "plan/fingerprints.h"
#include "plan/level_remarks.h"
#include "plan/row_states.h"
#include "run/handle_budget.h"
#include "run/level_book.h"
#include "run/moves.h"
#include "run/pass_plan.h"
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
        data_(sheet_, session_, context_.signal.tree()),
        targets_(session_, sheet_, request.share) {}

  RunSummary run() {
    const Clock::time_point begin = Clock::now();
    writeLog(LogLevel::Note, "a run begins: " + counted(request_.rows.size(), "file"));
    raiseFileLimit();
    budget_ = handleBudget(request_.jobs > 0 ? request_.jobs : tbb::this_task_arena::max_concurrency());
    const tbb::global_control limit(tbb::global_control::max_allowed_parallelism,
                                    static_cast<std::size_t>(std::max(budget_.jobs, 2)));
    tbb::task_arena arena(budget_.jobs);
    arena.execute([&] { work(); });
    control_.begin(RunStage::Done);
    summary_.cancelled = control_.cancelled;
    control_.stages.stop();
    summary_.seconds = secondsSince(begin);
    writeLog(LogLevel::Note, outcomeWords());
    return summary_;
  }

 private:
  void work() {
    control_.stages.begin(sheet_.rows.size(), request_.rows);
    std::vector<std::size_t> rows = refuseFaults();
    const auto refuse = [&](std::size_t row, const Error& error) {
      reportRow(row, tl::unexpected(error), true);
    };
    limitEncoders(rows);
    targets_.open(rows, refuse);
    noteMeasured(rows);
    refuseTakenNames(rows, rowsThatStay(rows));
    refuseTakenNames(rows, moveFiles(rows));
    sweepFolders(sheet_);
    targets_.checkSpace(rows, refuse);
    for (const std::size_t row : rows) control_.framesAll += sheet_.soundOf(sheet_.rows[row]).frames;
    countSpans(rows);
    control_.filesAll = rows.size();
    MemoryBudget memory(request_.spoolBytes);
    Spool spool(memory, [&] { return targets_.folderOf(rows.front()).create("spool"); });
    LevelBook book(sheet_, rows);  // what waits in it goes before the spool
    book_ = &book;
    for (const std::size_t row : rows)
      journals_.try_emplace(sheet_.soundOf(sheet_.rows[row]).brief, &targets_.journalOf(row));
    const auto passes = passesOf(
        sheet_, rows, budget_.rowsPerPass, [&](std::size_t row) { return &targets_.folderOf(row); },
        book.heard());
    prepareMedia(passes);
    {
      Publisher publisher(request_.sync, budget_.waiting,
                          [&](std::size_t row, const Result<>& outcome, const auto& replaced) {
                            reportRow(row, outcome, false, held(replaced));
                          });
      auto groups = groupsOf(passes, context_.finder);
      countCosts(groups);
      control_.begin(RunStage::Sound);
      tbb::parallel_for_each(groups.begin(), groups.end(), [&](const std::vector<PlannedPass>& group) {
        const auto done = [&](PassResult result) { take(std::move(result), publisher); };
        const PassSetting setting{
            sheet_,
            data_,
            context_.signal,
            media_,
            control_,
            request_.pluginPasses,
            [this](std::uint32_t brief, std::uint32_t span) { return floorOf(brief, span); },
            &spool,
            request_.measures};
        if (group.size() == 1)
          done(runPass(setting, group.front()));
        else
          runSweep(setting, group, done);
      });
      failTheRest(book);
      control_.begin(RunStage::Finishing);
      publisher.finish();
    }
    summary_.remarks = targets_.close();
    if (!grown_.empty()) summary_.remarks.push_back(grownRemark());
    if (auto moved = movedRemark(rows)) summary_.remarks.push_back(std::move(*moved));
    cache_.shrinkTo(cache_.limit());
  }

  /// Encoders of other formats than plain samples take half a megabyte each.
  void limitEncoders(const std::vector<std::size_t>& rows) {
    constexpr std::size_t kMostEncoders = 512;
    const bool isAny = std::any_of(rows.begin(), rows.end(), [&](std::size_t row) {
      const Container container = encodingInfo(sheet_.rows[row].encoding).container;
      return container != Container::Wav && container != Container::Aiff;
    });
    if (isAny) budget_.rowsPerPass = std::min(budget_.rowsPerPass, kMostEncoders);
  }

  using Span = std::pair<std::uint32_t, std::uint32_t>;  // brief, and which of its spans
  Span spanOf(const Row& row) const { return {sheet_.soundOf(row).brief, sheet_.soundOf(row).span}; }

  /// Spans of which files stay as they are.
  void countSpans(const std::vector<std::size_t>& rows) {
    std::vector<char> isMade(sheet_.rows.size(), 0);
    for (const std::size_t row : rows) isMade[row] = 1;
    for (std::size_t i = 0; i < sheet_.rows.size(); ++i)
      if (isMade[i] == 0) stays_.insert(spanOf(sheet_.rows[i]));
  }

  /// The tail that files of a span which stay have; 0 where all are made anew.
  Frame floorOf(std::uint32_t brief, std::uint32_t span) const {
    const RungOut& heard = sheet_.briefs[brief].rungOut[span];
    return heard.isKept && stays_.contains({brief, span}) ? heard.tail : 0;
  }

  /// Whether the tail is longer than that of files which stay: they are stale now.
  bool outgrows(const Span& span, const Measured& tail) const {
    const RungOut& heard = sheet_.briefs[span.first].rungOut[span.second];
    return heard.isKept && tail.tail > heard.tail && stays_.contains(span);
  }

  Remark grownRemark() const {
    const auto& [brief, span] = *grown_.begin();
    const std::string& name = sheet_.briefs[brief].spans[span].name;
    const std::string what =
        grown_.size() == 1
            ? "The tail of " + printable(name, 60) + " rings longer than before. Its files"
            : "The tails of " + printable(name, 60) + " and " + counted(grown_.size() - 1, "more span") +
                  " ring longer than before. Their files";
    return {Severity::Warning, RemarkCode::TailGrew, name,
            what + " that stayed are stale now: make what is due once more"};
  }

  /// Of files that stayed, and have another gain than their set was found to have: they are stale now.
  std::optional<Remark> movedRemark(const std::vector<std::size_t>& rows) const {
    std::vector<char> isMade(sheet_.rows.size(), 0);
    for (const std::size_t row : rows) isMade[row] = 1;
    const Row* first = nullptr;
    std::size_t moved = 0;
    for (std::size_t i = 0; i < sheet_.rows.size() && !gains_.empty(); ++i) {
      const Row& row = sheet_.rows[i];
      const auto gain = gains_.find(sheet_.soundOf(row).gainSet);
      if (isMade[i] != 0 || row.state != RowState::UpToDate || !row.made || gain == gains_.end()) continue;
      if (row.made->gainDb == gain->second) continue;
      if (moved++ == 0) first = &row;
    }
    if (moved == 0) return std::nullopt;
    return movedGainRemark(*first, moved, gains_.at(sheet_.soundOf(*first).gainSet));
  }

  std::string outcomeWords() const {
    const char* how = summary_.cancelled ? "a run was stopped: " : "a run ended: ";
    return how + counted(summary_.written, "file") + " written, " + std::to_string(summary_.failed) +
           " failed, in " + std::to_string(std::lround(summary_.seconds * 1000)) + " ms";
  }

  void failRow(std::size_t row, Error error) { reportRow(row, tl::unexpected(std::move(error))); }

  /// Counted as long as it is open; none where there are enough, or few handles at all.
  std::shared_ptr<FileHandle> held(const std::shared_ptr<FileHandle>& replaced) const {
    if (!replaced || *held_ >= std::min(request_.mostReplaced, budget_.waiting / 2)) return {};
    ++*held_;
    return {replaced.get(), [replaced, count = held_](FileHandle*) { --*count; }};
  }

  void reportRow(std::size_t row, const Result<>& outcome, bool concernsFolder = false,
                 std::shared_ptr<FileHandle> replaced = {}) {
    const std::scoped_lock lock(mutex_);
    ++control_.filesDone;
    control_.stages.set(row, outcome ? RowStage::Done : RowStage::Failed);
    if (outcome)
      writeLog(LogLevel::Detail, "a file was made", sheet_.rows[row].file);
    else
      writeLog(LogLevel::Error, "a file could not be made: " + std::string(errorName(outcome.error().code)),
               sheet_.rows[row].file + ": " + outcome.error().describe());
    ++(outcome ? summary_.written : summary_.failed);
    const auto made = made_.find(row);
    RowOutcome report = made == made_.end() ? RowOutcome{} : std::move(made->second);
    report.row = row;
    report.result = outcome;
    report.concernsFolder = concernsFolder;
    report.replaced = std::move(replaced);
    if (outcome) summary_.soundSeconds += static_cast<double>(report.extent.frames()) / sheet_.rows[row].rate;
    report_(report);
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

  /// What was heard elsewhere of the spans that are made.
  void noteMeasured(const std::vector<std::size_t>& rows) {
    if (request_.measured.empty()) return;
    std::map<std::string, const Measured*> byKey;
    for (const Measured& one : request_.measured) byKey[one.key] = &one;
    std::map<ReceiptJournal*, std::vector<Measured>> noted;
    std::set<Span> seen;
    for (const std::size_t row : rows) {
      const Span span = spanOf(sheet_.rows[row]);
      const auto found = byKey.find(sheet_.spanKeyOf(span.first, span.second));
      if (found != byKey.end() && sheet_.briefs[span.first].rungOut[span.second].isKnown &&
          seen.insert(span).second)
        noted[&targets_.journalOf(row)].push_back(*found->second);
      const auto level = byKey.find(levelKeyOf(sheet_, sheet_.rows[row]));
      if (level != byKey.end() && sheet_.soundOf(sheet_.rows[row]).levels)
        noted[&targets_.journalOf(row)].push_back(*level->second);
    }
    for (auto& [journal, measured] : noted) (void)journal->append({}, request_.sync, measured);
  }

  /// Those whose file waits for another name and is not among these.
  std::vector<std::size_t> rowsThatStay(const std::vector<std::size_t>& rows) const {
    std::vector<char> isMade(sheet_.rows.size(), 0);
    for (const std::size_t row : rows) isMade[row] = 1;
    std::vector<std::size_t> stay;
    for (std::size_t i = 0; i < sheet_.rows.size(); ++i)
      if (isMade[i] == 0 && sheet_.rows[i].state == RowState::Renamed) stay.push_back(i);
    return stay;
  }

  /// A name that the file of another row has, which has not got its new one, would be lost to that.
  void refuseTakenNames(std::vector<std::size_t>& rows, const std::vector<std::size_t>& waiting) {
    std::map<std::pair<FolderPath, std::string_view>, std::size_t> taken;
    for (const std::size_t i : waiting) taken[{sheet_.briefOf(sheet_.rows[i]).base, sheet_.rows[i].from}] = i;
    if (taken.empty()) return;
    std::erase_if(rows, [&](std::size_t row) {
      const auto other = taken.find({sheet_.briefOf(sheet_.rows[row]).base, sheet_.rows[row].file});
      if (other == taken.end()) return false;
      failRow(row, {ErrorCode::Occupied, sheet_.rows[row].file,
                    "the file of another row still has this name, which waits for a new one",
                    "Make " + printable(sheet_.rows[other->second].file, 120) + " too"});
      return true;
    });
  }

  /// Takes out the rows that need nothing else, and gives those whose files stayed where they were.
  std::vector<std::size_t> moveFiles(std::vector<std::size_t>& rows) {
    std::vector<std::size_t> moved, failed;
    for (const std::size_t row : rows)
      if (isMoved(row)) moved.push_back(row);
    if (moved.empty()) return failed;
    Moves(sheet_, data_, context_.signal, targets_, request_.sync,
          [&](std::size_t row, const Result<>& outcome) {
            if (outcome && request_.again) return;
            if (outcome) return reportMove(row);
            failed.push_back(row);
            failRow(row, outcome.error());
          })
        .run(moved);
    std::erase_if(rows, [&](std::size_t row) {
      return (isMoved(row) && !request_.again) ||
             std::find(failed.begin(), failed.end(), row) != failed.end();
    });
    return failed;
  }

  /// One that is rendered anew in its place needs no rewriting before.
  bool isMoved(std::size_t row) const {
    const Row& r = sheet_.rows[row];
    return !r.from.empty() && !(request_.again && r.from == r.file);
  }

  void reportMove(std::size_t row) {
    const Row& r = sheet_.rows[row];
    RowOutcome report;
    report.row = row;
    report.deed = r.isUnfinished() ? Deed::Adopted : r.from == r.file ? Deed::Rewritten : Deed::Renamed;
    report.extent = r.extent;
    report.start = r.start;
    const std::scoped_lock lock(mutex_);
    control_.stages.set(row, RowStage::Done);
    ++(report.deed == Deed::Renamed     ? summary_.renamed
       : report.deed == Deed::Rewritten ? summary_.rewritten
                                        : summary_.written);
    report_(report);
  }

  void prepareMedia(const std::vector<PlannedPass>& passes) {
    const std::set<std::string> needed = mediaOf(passes, context_.finder);
    control_.begin(RunStage::Media);
    control_.mediaAll = needed.size();
    media_ = ReadableMedia::prepare(session_, *request_.facts, cache_, {needed.begin(), needed.end()},
                                    &control_.cancelled, [&] { ++control_.mediaDone; });
  }

  /// Each pass knows its cost.
  void countCosts(std::vector<std::vector<PlannedPass>>& groups) {
    const std::vector<std::vector<double>> costs = costsOf(sheet_, context_.signal, groups);
    double all = 0;
    for (std::size_t i = 0; i < groups.size(); ++i)
      for (std::size_t k = 0; k < groups[i].size(); ++k) all += groups[i][k].cost = costs[i][k];
    control_.costAll = all;
  }

  /// What came of a pass: rows that are done, then those whose gain is known by now.
  void take(PassResult result, Publisher& publisher) {
    for (WaitingRow& row : result.waiting)
      for (const HeardTail& tail : result.tails)
        if (Span{tail.brief, tail.span} == spanOf(row.output->row())) row.heardTail = tail;
    publishLevels(result.levels, publisher);
    std::vector<ReleasedRow> released = book_->take(std::move(result.levels), std::move(result.waiting));
    takeRows(std::move(result), publisher);
    searchGains(released);
    // Not more files at once than a pass has.
    for (std::size_t done = 0; done < released.size(); done += budget_.rowsPerPass)
      takeRows(written(std::span(released).subspan(done).first(
                   std::min(budget_.rowsPerPass, released.size() - done))),
               publisher);
  }

  void publishLevels(const std::vector<HeardLevels>& levels, Publisher& publisher) {
    std::map<ReceiptJournal*, std::vector<Measured>> measured;
    for (const HeardLevels& heard : levels)
      if (heard.levels) {
        const TappedSound& sound = sheet_.sounds[heard.sound];
        Measured one{levelKeyOf(sheet_, sheet_.leadOf(sound)), heard.digest};
        one.levels = *heard.levels;
        measured[journals_.at(sound.brief)].push_back(std::move(one));
      }
    for (auto& [journal, all] : measured) publisher.publish(*journal, {}, std::move(all));
  }

  /// Beside each other.
  PassResult written(std::span<ReleasedRow> released) const {
    std::vector<std::optional<RowResult>> rows(released.size());
    tbb::this_task_arena::isolate([&] {
      tbb::parallel_for(std::size_t{0}, released.size(), [&](std::size_t i) {
        const DenormalGuard guard;
        rows[i].emplace(writtenOf(released[i]));
      });
    });
    PassResult result;
    for (std::size_t i = 0; i < released.size(); ++i) {
      result.rows.push_back(std::move(*rows[i]));
      if (released[i].row.heardTail) result.tails.push_back(*released[i].row.heardTail);
      released[i].row.output.reset();
    }
    return result;
  }

  /// Rows that still wait when all passes are done: of a run that was cancelled, nobody asks for them.
  void failTheRest(LevelBook& book) {
    for (const WaitingRow& row : book.rest())
      if (!control_.cancelled)
        failRow(row.output->index(), {ErrorCode::LevelUnknown, row.output->row().file, {}, {}});
  }

  /// Of sounds behind a limiter: on the first row of each, for all.
  void searchGains(std::vector<ReleasedRow>& released) const {
    std::map<std::uint32_t, Result<double>> found;  // by set
    const DenormalGuard guard;
    for (ReleasedRow& row : released) {
      RowOutput& output = *row.row.output;
      const std::uint32_t set = sheet_.soundOf(output.row()).gainSet;
      if (!sheet_.gainSets[set].isSearched() || !row.gainDb) continue;
      const auto known = found.find(set);
      row.gainDb = known != found.end() ? known->second
                                        : found.emplace(set, output.searchGain(*row.gainDb)).first->second;
    }
  }

  RowResult writtenOf(ReleasedRow& released) const {
    WaitingRow& waiting = released.row;
    RowOutput& output = *waiting.output;
    control_.stages.set(output.index(), RowStage::Writing);
    if (released.gainDb) {
      output.release(*released.gainDb);
      waiting.fingerprint.form = formDigest(sheet_, output.row(), waiting.tail, *released.gainDb);
    } else {
      output.stop(released.gainDb.error());
    }
    RowResult made = output.finish(waiting.fingerprint);
    made.steps = std::move(waiting.steps);
    made.facts.foldLeftDb = waiting.foldLeftDb;
    return made;
  }

  void takeRows(PassResult result, Publisher& publisher) {
    std::map<Span, const Measured*> tails;
    for (const HeardTail& tail : result.tails) tails[{tail.brief, tail.span}] = &tail.measured;
    struct Batch {
      std::vector<FinishedFile> files;
      std::vector<Measured> measured;
      std::set<Span> spans;
    };
    std::map<ReceiptJournal*, Batch> byReceipt;
    std::set<Span> grown;
    for (RowResult& row : result.rows) {
      const auto tail = tails.find(spanOf(sheet_.rows[row.row]));
      const Levels levels = levelsOf(row);
      RowOutcome outcome = outcomeOf(row, levels, tail == tails.end() ? nullptr : tail->second);
      if (row.file) {
        row.file->line.levels = levels.rounded();
        row.file->line.made = madeText(withRemarks(std::move(row.made), outcome));
      }
      keep(row, std::move(outcome));
      if (!row.file) {
        failRow(row.row, std::move(row.file).error());
        continue;
      }
      Batch& batch = byReceipt[&targets_.journalOf(row.row)];
      if (tail != tails.end() && batch.spans.insert(tail->first).second) {
        batch.measured.push_back(*tail->second);
        if (outgrows(tail->first, *tail->second)) grown.insert(tail->first);
      }
      if (sheet_.endsOf(sheet_.rows[row.row]).isCutByHearing()) {
        const ReceiptLine& line = row.file->line;
        batch.measured.push_back({line.key, trimDigest(line.fingerprint), 0, false, 0, row.facts.kept});
      }
      row.file->holdsReplaced = request_.mostReplaced > 0;
      batch.files.push_back(std::move(*row.file));
    }
    for (auto& [receipt, batch] : byReceipt)
      publisher.publish(*receipt, std::move(batch.files), std::move(batch.measured));
    const std::scoped_lock lock(mutex_);
    grown_.merge(grown);
    if (reportSum_) {
      for (const SumOutcome& sum : result.sums) reportSum_(sum);
    }
  }

  /// What is told of a row once it has its name. `tail` may be null.
  RowOutcome outcomeOf(const RowResult& result, const Levels& levels, const Measured* tail) const {
    const Row& row = sheet_.rows[result.row];
    RowOutcome outcome;
    outcome.row = result.row;
    outcome.level = result.level;
    outcome.facts = result.facts;
    outcome.extent = result.extent;
    outcome.steps = result.steps;
    outcome.seam = result.seam;
    outcome.gainDb = result.gainDb;
    outcome.levels = levels;
    outcome.foundGain = book_->foundFor(sheet_.soundOf(row).gainSet);
    outcome.start = sessionStart(sheet_.endsOf(row).extent, result.extent);
    if (tail != nullptr)
      outcome.rungOut = {true, true, tail->tail, tail->byLimit, tail->leftDb};
    else if (sheet_.spanOf(row).ringsOut)
      outcome.rungOut = sheet_.briefOf(row).rungOut[sheet_.soundOf(row).span];
    return outcome;
  }

  void keep(const RowResult& result, RowOutcome outcome) {
    const std::scoped_lock lock(mutex_);
    if (result.file && outcome.foundGain)
      gains_.insert_or_assign(sheet_.soundOf(sheet_.rows[result.row]).gainSet, result.gainDb);
    made_.insert_or_assign(result.row, std::move(outcome));
  }

  /// What was noticed of the row, when it was planned and when it was made; notes are not kept.
  MadeFile withRemarks(MadeFile made, const RowOutcome& outcome) const {
    const auto add = [&](const std::vector<Remark>& remarks) {
      for (const Remark& remark : remarks)
        if (remark.severity == Severity::Warning && !isAboutFolder(remark.code))
          made.remarks.push_back({std::string(remarkName(remark.code)), remark.text});
    };
    add(sheet_.remarksOf(sheet_.rows[outcome.row]));
    add(remarksOf(session_, sheet_, outcome));
    return made;
  }

  /// Of the file: what was measured before its gain, raised by that; its peak was measured in any case.
  Levels levelsOf(const RowResult& result) const {
    const Row& row = sheet_.rows[result.row];
    const bool isAlike = row.isLead && row.part == 0;
    Levels levels = result.levels;  // judged by themselves
    if (const auto heard = book_->levelsOf(row.sound); heard && isAlike && !levels.peakDb)
      levels = heard->raised(result.gainDb);
    if (levels.peakDb && encodingInfo(row.encoding).isLossy()) return levels;
    levels.peakDb = decibelsOf(static_cast<double>(result.level.peak));
    if (levels.truePeakDb) levels.truePeakDb = std::max(*levels.truePeakDb, *levels.peakDb);
    return levels;
  }

  const RunRequest& request_;
  const Session& session_;
  const Sheet& sheet_;
  MediaCache& cache_;
  RunControl& control_;
  const std::function<void(const RowOutcome&)>& report_;
  const std::function<void(const SumOutcome&)>& reportSum_;
  SessionContext context_;
  RowData data_;
  HandleBudget budget_{};
  ReadableMedia media_;
  Targets targets_;
  std::mutex mutex_;
  std::map<std::size_t, RowOutcome> made_;  // rows that wait for their name
  LevelBook* book_ = nullptr;
  std::map<std::uint32_t, ReceiptJournal*> journals_;  // by brief
  std::map<std::uint32_t, double> gains_;              // by set, that were found in this run
  std::set<Span> stays_;                               // some of their files do
  std::set<Span> grown_;                               // of those, that ring longer now
  std::shared_ptr<std::atomic<std::size_t>> held_ =
      std::make_shared<std::atomic<std::size_t>>(0);  // files that were replaced, and are still open
  RunSummary summary_;
};

}  // namespace

std::vector<std::size_t> rowsToMake(const Sheet& sheet, bool foreign) {
  std::vector<std::size_t> rows;
  for (std::size_t i = 0; i < sheet.rows.size(); ++i) {
    const RowState state = sheet.rows[i].state;
    const bool isOthers = state == RowState::Changed || state == RowState::Foreign;
    if (isMakeable(sheet, sheet.rows[i]) || (foreign && isOthers && !sheet.briefOf(sheet.rows[i]).isStopped))
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
