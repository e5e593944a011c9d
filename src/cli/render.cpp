#include "render.h"

#include <fnmatch.h>
#include <unistd.h>

#include <atomic>
#include <csignal>
#include <cstdio>

#include <CLI/CLI.hpp>

#include "base/unicode.h"
#include "check_report.h"
#include "handover/asked_lists.h"
#include "plan.h"
#include "progress_line.h"
#include "reporter.h"
#include "run/adopt.h"
#include "run/check_sheet.h"
#include "run/live_sheet.h"
#include "run/runner.h"
#include "run/worker_passes.h"
#include "sharing.h"

namespace octaphon::cli {
namespace {

struct RenderOptions {
  BriefOptions brief;
  int jobs = 0;
  int spoolMegabytes = 512;
  bool all = false;
  std::string only;  // a glob; empty: all
  bool replaceForeign = false;
  bool noSync = false;
  bool isText = false;
  bool isNewEdition = false;
  std::string newEdition;  // a version; empty: the next
  Share share;
  bool merge = false;
  bool adopt = false;
  bool tellsProgress = false;
  bool checks = false;
  std::vector<std::string> measured;  // files
};

constexpr std::size_t kMostReplaced = 128;  // files that are open at once to be compared

std::atomic<RunControl*> runningControl{nullptr};

void stopRunning(int) {
  // Only an atomic flag is touched: the run looks at it between blocks.
  if (RunControl* control = runningControl.load()) control->cancelled = true;
}

bool isBlocked(const Sheet& sheet, const Row& row, bool replaceForeign) {
  switch (row.state) {
    case RowState::Fault: return true;
    case RowState::Changed:
    case RowState::Foreign: return !replaceForeign || sheet.briefOf(row).isStopped;
    case RowState::HeldBack:
    case RowState::UpToDate:
    case RowState::OlderEngine: return false;
    default: return sheet.briefOf(row).isStopped;
  }
}

/// Why a row cannot be made as things are; null where nothing tells.
const Remark* blockOf(const Sheet& sheet, const Row& row) {
  if (row.state == RowState::Fault) return sheet.faultOf(row);
  const auto why = std::find_if(row.remarks.begin(), row.remarks.end(), [&](const Remark& remark) {
    return remark.code == RemarkCode::ChangedFile || remark.code == RemarkCode::ForeignFile ||
           remark.code == RemarkCode::Stopped;
  });
  return why == row.remarks.end() ? nullptr : &*why;
}

/// Rows that cannot be made as things are count as failed, with their remark.
std::size_t reportBlocked(const Sheet& sheet, const std::vector<char>& isAsked, bool replaceForeign,
                          Reporter& reporter) {
  static const std::string kStops = "The brief stops, for files that it would replace are there";
  std::size_t count = 0;
  for (std::size_t i = 0; i < sheet.rows.size(); ++i) {
    const Row& row = sheet.rows[i];
    if (isAsked[i] == 0 || !isBlocked(sheet, row, replaceForeign)) continue;
    const Remark* remark = blockOf(sheet, row);
    const bool concernsFolder = remark == nullptr || (remark->code == RemarkCode::UnusableFolder ||
                                                      remark->code == RemarkCode::BadFolder);
    RowOutcome outcome;
    outcome.row = i;
    outcome.result =
        tl::unexpected(Error{ErrorCode::Occupied, "", remark == nullptr ? kStops : remark->text, ""});
    outcome.concernsFolder = concernsFolder;
    reporter.row(outcome);
    ++count;
  }
  return count;
}

/// By row: whether it is among those asked for.
std::vector<char> rowsAsked(const Sheet& sheet, const std::string& glob) {
  std::vector<char> isAsked(sheet.rows.size(), 1);
  for (std::size_t i = 0; i < sheet.rows.size() && !glob.empty(); ++i)
    isAsked[i] = ::fnmatch(glob.c_str(), sheet.rows[i].file.c_str(), 0) == 0 ? 1 : 0;
  return isAsked;
}

/// The version that is asked for; 0: the next. Tells what is wrong with it.
std::optional<int> versionOf(const RenderOptions& options, const Session& session,
                             const PlanRequest& request) {
  int version = 0;
  const auto refuse = [&](const std::string& text, const std::string& cure) {
    printError({ErrorCode::BadValue, "--new-edition " + printable(options.newEdition, 40), text, cure},
               options.brief.json);
    return std::nullopt;
  };
  if (!options.newEdition.empty()) {
    const bool isNumber = options.newEdition.size() <= 6 &&
                          options.newEdition.find_first_not_of("0123456789") == std::string::npos;
    version = isNumber ? std::stoi(options.newEdition) : 0;
    if (version < 1)
      return refuse("a version is a whole number from 1 on", "Give another one, or none for the next");
  }
  const bool isShared = !options.share.isAll();
  if (isShared && version == 0)
    return refuse("each share would begin one", "Give its version, which the first share begins");
  for (const auto& [brief, edition] : editionsOf(session, request))
    if (version > 0 && version <= edition.version && !(isShared && version == edition.version))
      return refuse("there is edition " + std::to_string(edition.version) + " already",
                    "Give a later one, or none for the next");
  return version;
}

/// The sheet that is made; nothing where a new edition would write over an earlier one's files.
std::shared_ptr<Sheet> planOf(const Opened& opened, const PlanRequest& request, bool json) {
  auto sheet =
      std::make_shared<Sheet>(planWithStates(*opened.session, *opened.facts, request, opened.plugins.get()));
  if (request.newEditions.empty()) return sheet;
  for (const Row& row : sheet->rows)
    for (const Remark& remark : row.remarks)
      if (remark.code == RemarkCode::EarlierEdition) {
        printError({ErrorCode::Occupied, row.file, remark.text, "No edition was begun"}, json);
        return nullptr;
      }
  return sheet;
}

std::vector<std::size_t> rowsOf(const Sheet& sheet, const std::vector<char>& isAsked,
                                const RenderOptions& options) {
  std::vector<std::size_t> rows;
  for (std::size_t i = 0; i < sheet.rows.size(); ++i) {
    const Row& row = sheet.rows[i];
    const bool isOthers = row.state == RowState::Changed || row.state == RowState::Foreign;
    const bool isMade = isMakeable(sheet, row) || (options.all && mayBeMadeAgain(sheet, row)) ||
                        (options.replaceForeign && isOthers && !sheet.briefOf(row).isStopped);
    if (isAsked[i] != 0 && isMade) rows.push_back(i);
  }
  return rows;
}

RunRequest jobOf(const Opened& opened, const PlanRequest& request, const std::shared_ptr<Sheet>& sheet,
                 const RenderOptions& options) {
  RunRequest job;
  job.session = opened.session;
  job.facts = opened.facts;
  job.sheet = sheet;
  job.plugins = opened.plugins;
  job.share = options.share;
  job.measured = request.measured;
  job.again = options.all;
  job.jobs = options.jobs;
  job.spoolBytes = static_cast<std::size_t>(options.spoolMegabytes) << 20;
  job.sync = !options.noSync;
  if (options.checks) job.mostReplaced = kMostReplaced;
  return job;
}

/// Tells of rows that are not made, and counts them.
std::size_t refuse(const Opened& opened, const std::vector<char>& isAsked, RunRequest& job,
                   const RenderOptions& options, Reporter& reporter) {
  std::size_t refused = 0;
  if (!options.share.isAll())
    keepShare(opened, *job.sheet, options.share, job.rows, [&](std::size_t row, const Error& error) {
      RowOutcome outcome;
      outcome.row = row;
      outcome.result = tl::unexpected(error);
      outcome.concernsFolder = true;
      reporter.row(outcome);
      ++refused;
    });
  // What no share can make is told by the first one.
  if (options.share.index == 1)
    refused += reportBlocked(*job.sheet, isAsked, options.replaceForeign, reporter);
  return refused;
}

/// Shows how far it is, and can be stopped by signals. `behind` may be null.
RunSummary runJob(const RunRequest& job, MediaCache& cache, const RenderOptions& options, Reporter& reporter,
                  ReadBehind* behind) {
  RunControl control;
  runningControl = &control;
  RunSummary summary;
  {
    const ProgressLine line(control, job.sheet->rate, options.brief.json, options.tellsProgress);
    summary = makeFiles(
        job, cache, control,
        [&](const RowOutcome& outcome) {
          reporter.row(outcome);
          if (behind != nullptr && outcome.result) behind->take(writtenFileOf(*job.sheet, outcome));
        },
        [&](const SumOutcome& sum) { reporter.sum(sum); });
  }
  runningControl = nullptr;
  if (!options.share.isAll()) return summary;
  if (const auto joined = joinShares(*job.sheet); !joined)
    summary.remarks.push_back({Severity::Warning,
                               RemarkCode::UnusableFolder,
                               {},
                               "Shares are not joined: " + joined.error().describe()});
  return summary;
}

/// What was found of the files that were made, and what they replaced. False where something was, or the
/// folder cannot be checked.
bool tellChecks(const RunRequest& job, ReadBehind& behind, bool json) {
  const ReadBehind::Outcome outcome = behind.finish();
  for (const FileChange& change : outcome.changes) printChange(change, json);
  if (outcome.notCompared > 0 && !json)
    std::printf("%s replaced too fast to be compared with what was there\n",
                counted(outcome.notCompared, "file").c_str());
  std::size_t files = 0, findings = 0, accepted = 0;
  bool isAllChecked = true;
  for (auto& [base, request] : checksOf(*job.sheet, true)) {
    const auto reads = outcome.reads.find(base);
    if (reads == outcome.reads.end()) continue;
    request.reads = reads->second;
    request.expectsAll = false;
    const auto report = checkFolder(request);
    if (!report) {
      printError(report.error(), json);
      isAllChecked = false;
      continue;
    }
    printFindings(*report, base, json);
    files += reads->second->size();
    findings += report->open();
    accepted += report->accepted();
  }
  if (json)
    printJson({{"event", "checked"},
               {"files", files},
               {"findings", findings},
               {"accepted", accepted},
               {"not_compared", outcome.notCompared}});
  else
    std::printf("%s read back: %s\n", counted(files, "file").c_str(),
                findings == 0 ? "nothing found" : counted(findings, "finding").c_str());
  return isAllChecked && findings == 0;
}

/// Notes and lists that briefs ask for. False where one could not be written.
bool handOverLists(const Sheet& sheet, bool sync, const RenderOptions& options) {
  bool isWell = true;
  for (const auto& [base, kinds] : askedLists(sheet)) {
    const auto done = handOver(base, kinds, sync);
    if (!done) {
      const bool isNothingThere = done.error().code == ErrorCode::NotFound;  // all rows failed: that was told
      if (!isNothingThere) printError(done.error(), options.brief.json);
      isWell = isWell && isNothingThere;
      continue;
    }
    for (const Error& error : done->refused) printError(error, options.brief.json);
    isWell = isWell && done->refused.empty();
    if (!options.brief.json) continue;
    const auto print = [&](const std::vector<std::string>& files, const char* result) {
      for (const std::string& file : files)
        printJson({{"event", "list"},
                   {"folder", base.full().lexically_normal().string()},
                   {"file", file},
                   {"result", result}});
    };
    print(done->written, "written");
    print(done->unchanged, "unchanged");
  }
  return isWell;
}

/// What became of the folders; of a share, what was there before.
void reportFolders(const Opened& opened, PlanRequest request, const RunRequest& job,
                   const Reporter& reporter) {
  if (job.rows.empty() || !job.share.isAll()) return reporter.report(*job.sheet);
  request.newEditions.clear();
  request.numberedAgain.clear();
  reporter.report(planWithStates(*opened.session, *opened.facts, request, opened.plugins.get()));
}

int make(const Opened& opened, const PlanRequest& request, MediaCache& cache,
         const std::shared_ptr<Sheet>& sheet, const RenderOptions& options) {
  const std::vector<char> isAsked = rowsAsked(*sheet, options.only);
  if (!options.only.empty() && std::count(isAsked.begin(), isAsked.end(), 1) == 0)
    return fails({ErrorCode::UnknownName, "--only '" + printable(options.only, 120) + "'",
                  "no file of the sheet is called so", "octaphon-cli plan shows them"},
                 kWrongUsage, options.brief.json);
  WorkerPasses passes;
  RunRequest job = jobOf(opened, request, sheet, options);
  job.pluginPasses = &passes;
  job.rows = rowsOf(*sheet, isAsked, options);
  const SheetCounts before = countRows(*sheet);
  std::size_t kept = before.stale;
  for (const std::size_t row : job.rows)
    if (sheet->rows[row].state == RowState::Stale) --kept;
  Reporter reporter(*opened.session, *sheet, options.brief.json);
  const std::size_t refused = refuse(opened, isAsked, job, options, reporter);
  std::optional<ReadBehind> behind;
  if (options.checks) behind.emplace();
  RunSummary summary = runJob(job, cache, options, reporter, behind ? &*behind : nullptr);
  summary.failed += refused;
  const bool isFound = behind && !summary.cancelled && !tellChecks(job, *behind, options.brief.json);
  for (const Remark& remark : summary.remarks) reporter.remark(remark);
  if (summary.written + summary.renamed + summary.rewritten > 0)
    noteDeliveries(*sheet, options.brief.session);
  const bool isHandedOver =
      summary.cancelled || !job.share.isAll() || handOverLists(*sheet, job.sync, options);
  reportFolders(opened, request, job, reporter);
  reporter.done(summary, before, kept);
  return summary.failed > 0 || summary.cancelled || isFound || !isHandedOver ? kFailed : kWell;
}

/// The request as the receipts let it be just now; nothing where it is told that it cannot be.
std::optional<PlanRequest> requestFor(const Opened& opened, const RenderOptions& options) {
  auto request = requestOf(*opened.session, options.brief);
  if (!request) return std::nullopt;
  auto measured = readMeasured(options.measured, options.brief.json);
  if (!measured) return std::nullopt;
  request->measured = std::move(*measured);
  if (!options.isNewEdition) return request;
  const auto version = versionOf(options, *opened.session, *request);
  if (!version) return std::nullopt;
  const auto begun = editionsOf(*opened.session, *request);
  for (const std::size_t index : request->briefs) {
    const std::string& id = opened.session->briefs[index].id;
    const auto there = begun.find(id);
    if (there == begun.end() || there->second.version != *version) request->newEditions[id] = *version;
  }
  return request;
}

int makeShare(const Opened& opened, MediaCache& cache, const RenderOptions& options) {
  std::optional<PlanRequest> request;
  const auto plan = [&]() -> std::shared_ptr<Sheet> {
    request = requestFor(opened, options);
    return request ? planOf(opened, *request, options.brief.json) : nullptr;
  };
  const auto sheet = settleShares(opened, plan, options.share, cache);
  if (sheet) return make(opened, *request, cache, *sheet, options);
  if (!request) return kWrongUsage;
  return sheet.error().code == ErrorCode::Cancelled ? kFailed
                                                    : fails(sheet.error(), kFailed, options.brief.json);
}

int joinOnly(const Opened& opened, const PlanRequest& request, const RenderOptions& options) {
  const auto sheet = planOf(opened, request, options.brief.json);
  if (const auto joined = joinShares(*sheet); !joined)
    return fails(joined.error(), kFailed, options.brief.json);
  Reporter reporter(*opened.session, *sheet, options.brief.json);
  const bool isHandedOver = handOverLists(*sheet, !options.noSync, options);
  reporter.report(*sheet);
  const SheetCounts counts = countRows(*sheet);
  reporter.done({}, counts, counts.stale);
  return isHandedOver ? kWell : kFailed;
}

/// What files say of themselves goes into receipts that do not know them. False where it is told why not.
bool adopt(const Opened& opened, const PlanRequest& request, const RenderOptions& options) {
  const auto adopted = adoptFiles(*opened.session, *opened.facts, request, opened.plugins.get());
  if (!adopted) {
    printError(adopted.error(), options.brief.json);
    return false;
  }
  for (const Adopted& one : *adopted)
    if (options.brief.json)
      printJson(
          {{"event", "adopted"}, {"file", one.file}, {"key", one.key}, {"as_planned", one.isAsPlanned}});
  if (!options.brief.json) std::printf("%s adopted\n", counted(adopted->size(), "file").c_str());
  return true;
}

int runRender(RenderOptions options) {
  options.brief.json = !options.isText && (options.brief.json || !::isatty(STDOUT_FILENO));
  MediaCache cache(MediaCache::defaultFolder());
  auto opened = openSession(options.brief.session, cache, options.brief.json);
  if (!opened) return kSessionUnreadable;
  if (!applySettings(*opened, options.brief.set, options.brief.json)) return kWrongUsage;
  if (!options.share.isAll() && options.brief.numberAgain)
    return fails({ErrorCode::BadValue, "--number-again", "each share would number again",
                  "Do that first, in a run of its own"},
                 kWrongUsage, options.brief.json);
  if (!options.share.isAll()) return makeShare(*opened, cache, options);
  auto request = requestFor(*opened, options);
  if (!request) return kWrongUsage;
  if (options.adopt && !adopt(*opened, *request, options)) return kFailed;
  if (options.merge) return joinOnly(*opened, *request, options);
  const auto sheet = planOf(*opened, *request, options.brief.json);
  return sheet == nullptr ? kFailed : make(*opened, *request, cache, sheet, options);
}

}  // namespace

void addRender(CLI::App& app, int& exit) {
  auto options = std::make_shared<RenderOptions>();
  CLI::App* command = app.add_subcommand("render", "Makes the files that are not up to date");
  addBriefOptions(*command, options->brief);
  addNumberOptions(*command, options->brief);
  command->add_option("--jobs", options->jobs, "Workers; one a core when it is left out")
      ->check(CLI::Range(1, 256));
  command
      ->add_option("--spool-memory", options->spoolMegabytes,
                   "Megabytes for sound that waits for its level; 512 when it is left out, and more waits "
                   "in a file without a name")
      ->check(CLI::Range(0, 1 << 20));
  command->add_flag("--all", options->all, "Make all files of ours again, up to date or not");
  command->add_option("--only", options->only, "Only files that this pattern fits; * is any text, / too");
  command->add_flag("--replace-foreign", options->replaceForeign,
                    "Also replace files that others altered or put there");
  CLI::Option* edition = command->add_option("--new-edition", options->newEdition,
                                             "Begin a new edition of the briefs: today's, of this version or "
                                             "the next; files of earlier ones stay as they are");
  edition->expected(0, 1)->type_name("[VERSION]");
  addShareOption(*command, options->share);
  command->add_option("--measured", options->measured, "What 'measure' wrote; may be given several times");
  command
      ->add_flag("--merge", options->merge,
                 "Only join what shares wrote into the receipt; a run without --shard does that too")
      ->excludes("--shard", "--new-edition", "--number-again", "--all", "--only");
  command
      ->add_flag("--adopt", options->adopt,
                 "Before that, enter files into the receipt that it does not know, and that say themselves "
                 "which row they are of")
      ->excludes("--shard", "--new-edition", "--merge");
  command->add_flag("--progress", options->tellsProgress, "With JSON, tell how far it is every second");
  command->add_flag("--check", options->checks,
                    "Read what was made back beside making more, check it, and say what is otherwise than in "
                    "the files it replaced");
  command->add_flag("--no-sync", options->noSync, "Do not wait for the disk; a power cut may lose files");
  command->add_flag("--text", options->isText,
                    "Print for people where standard output is no terminal, instead of JSON");
  command->callback([options, edition, &exit] {
    for (const int signal : {SIGINT, SIGTERM, SIGHUP}) std::signal(signal, stopRunning);
    options->isNewEdition = edition->count() > 0;
    exit = runRender(*options);
  });
}

}  // namespace octaphon::cli
