#include "render.h"

#include <unistd.h>

#include <atomic>
#include <chrono>
#include <csignal>
#include <cstdio>
#include <set>
#include <thread>

#include <CLI/CLI.hpp>

#include "base/decibels.h"
#include "base/unicode.h"
#include "plan.h"
#include "run/live_sheet.h"
#include "run/runner.h"
#include "run/worker_passes.h"

namespace octaphon::cli {
namespace {

struct Options {
  BriefOptions brief;
  int jobs = 0;
  bool replaceForeign = false;
  bool noSync = false;
};

std::atomic<RunControl*> runningControl{nullptr};

void stopRunning(int) {
  // Only an atomic flag is touched: the run looks at it between blocks.
  if (RunControl* control = runningControl.load()) control->cancelled = true;
}

/// Draws on standard error while it lives, if that is a terminal.
class ProgressBar {
 public:
  ProgressBar(const RunControl& control, int rate) : control_(control), rate_(rate) {
    if (::isatty(::fileno(messages()))) thread_ = std::thread([this] { work(); });
  }
  ~ProgressBar() {
    ending_ = true;
    if (!thread_.joinable()) return;
    thread_.join();
    std::fprintf(messages(), "\r\033[K");
  }

 private:
  void work() {
    const auto begin = std::chrono::steady_clock::now();
    while (!ending_) {
      draw(std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count());
      std::this_thread::sleep_for(std::chrono::milliseconds(100));
    }
  }

  void draw(double seconds) const {
    constexpr int kWidth = 30;
    const ProgressFigures figures = figuresOf(control_, rate_, seconds);
    std::string bar(kWidth, '.');
    std::fill_n(bar.begin(), static_cast<int>(figures.fraction * kWidth), '=');
    const std::string left =
        figures.secondsLeft < 0 ? "" : ", " + shortTimeText(figures.secondsLeft) + " left";
    std::fprintf(messages(), "\r\033[K[%s] %3d %%  %s, %zu of %zu files, %.0f × real time%s", bar.c_str(),
                 static_cast<int>(figures.fraction * 100), std::string(runStageText(control_.stage)).c_str(),
                 control_.filesDone.load(), control_.filesAll.load(), figures.realtime, left.c_str());
    std::fflush(messages());
  }

  const RunControl& control_;
  int rate_;
  std::atomic<bool> ending_{false};
  std::thread thread_;
};

/// Tells of rows as they are done.
class Reporter {
 public:
  Reporter(const Session& session, const Sheet& sheet, bool json)
      : session_(session), sheet_(sheet), json_(json) {}

  void row(const RowOutcome& outcome) {
    const Row& row = sheet_.rows[outcome.row];
    std::vector<Remark> remarks = sheet_.remarksOf(row);
    for (Remark& found : remarksOf(session_, sheet_, outcome)) remarks.push_back(std::move(found));
    if (json_)
      printRow(outcome, row, remarks);
    else
      printText(outcome, row, remarks);
  }

  void remark(const Remark& remark) const {
    if (!json_) return say(remark.text);
    Json json{{"event", "remark"}};
    json.update(asJson(remark));
    printJson(json);
  }

  void sum(const SumOutcome& outcome) {
    const PlannedBrief& brief = sheet_.briefs[outcome.brief];
    const std::string& span = brief.spans[outcome.span].name;
    if (!json_) {
      if (outcome.verdict == SumVerdict::Differs) say(brief.brief.name + ": " + span + ": " + outcome.text);
      return;
    }
    Json json{{"event", "sum"},
              {"brief", brief.brief.name},
              {"span", span},
              {"residual_db", nullptr},
              {"verdict", sumVerdictName(outcome.verdict)},
              {"text", outcome.text}};
    if (outcome.verdict != SumVerdict::NotJudged) json["residual_db"] = outcome.residualDb;
    printJson(json);
  }

 private:
  void printRow(const RowOutcome& outcome, const Row& row, const std::vector<Remark>& remarks) const {
    Json json{{"event", "row"},
              {"file", row.file},
              {"key", sheet_.keyOf(row)},
              {"brief", sheet_.briefOf(row).brief.name},
              {"result", outcome.result ? "written" : "failed"},
              {"frames", row.isMeasured ? Json(nullptr) : Json(row.frames())}};
    if (outcome.result)
      addFigures(json, sheet_, outcome, row);
    else
      json["error"] = outcome.result.error().describe();
    json["remarks"] = asJson(remarks);
    printJson(json);
  }

  static void addFigures(Json& json, const Sheet& sheet, const RowOutcome& outcome, const Row& row) {
    json["frames"] = outcome.extent.frames();
    json["lead_in"] = outcome.extent.leadIn;
    json["body"] = outcome.extent.body;
    json["tail"] = outcome.extent.tail;
    json["start"] = outcome.start;
    json["loop"] = loopJson(sheet, row, outcome.extent, true);
    if (outcome.seam) json["seam"] = asJson(*outcome.seam);
    json["rate"] = row.rate;
    json["peak_db"] = decibelsOf(outcome.level.peak);
    if (!outcome.rungOut.isKnown) return;
    json["tail_stopped"] = outcome.rungOut.byLimit ? "limit" : "quiet";
    json["tail_left_db"] = outcome.rungOut.leftDb;
  }

  void printText(const RowOutcome& outcome, const Row& row, const std::vector<Remark>& remarks) {
    if (!outcome.result) return printFailure(outcome, row);
    for (const Remark& remark : remarks)
      if (remark.severity == Severity::Warning) say(nameOf(row) + ": " + remark.text);
  }

  /// What is wrong with a folder is said once, not for each of its files.
  void printFailure(const RowOutcome& outcome, const Row& row) {
    const std::string why = outcome.result.error().describe();
    if (!outcome.concernsFolder)
      say("failed: " + nameOf(row) + ": " + why);
    else if (said_.insert(why).second)
      say("failed: all files there: " + why);
  }

  /// Of a row; one that has no file name is called by what it is of.
  std::string nameOf(const Row& row) const {
    return row.file.empty() ? sheet_.spanOf(row).name + ", " + sheet_.sourceOf(row).name : row.file;
  }

  static void say(const std::string& line) {
    std::fprintf(messages(), "%s%s\n", ::isatty(::fileno(messages())) ? "\r\033[K" : "",
                 printable(line, 2000).c_str());
  }

  const Session& session_;
  const Sheet& sheet_;
  bool json_;
  std::set<std::string> said_;  // about folders
};

bool isBlocked(RowState state) {
  return state == RowState::Changed || state == RowState::Foreign || state == RowState::Fault;
}

/// Rows that cannot be made as things are count as failed, with their remark.
std::size_t reportBlocked(const Sheet& sheet, bool replaceForeign, Reporter& reporter) {
  std::size_t count = 0;
  for (std::size_t i = 0; i < sheet.rows.size(); ++i) {
    const Row& row = sheet.rows[i];
    if (!isBlocked(row.state) || (replaceForeign && row.state != RowState::Fault)) continue;
    const auto why = std::find_if(row.remarks.begin(), row.remarks.end(), [&](const Remark& remark) {
      return remark.code == RemarkCode::ChangedFile || remark.code == RemarkCode::ForeignFile;
    });
    const Remark* remark = row.state == RowState::Fault ? sheet.faultOf(row)
                           : why == row.remarks.end()   ? nullptr
                                                        : &*why;
    const std::string text = remark == nullptr ? std::string() : remark->text;
    const bool concernsFolder = remark != nullptr && (remark->code == RemarkCode::UnusableFolder ||
                                                      remark->code == RemarkCode::BadFolder);
    reporter.row({i, tl::unexpected(Error{ErrorCode::Occupied, "", text, ""}), concernsFolder});
    ++count;
  }
  return count;
}

void printSummary(const RunSummary& summary, const SheetCounts& before, bool json) {
  const std::size_t kept = before.stale;
  if (json)
    return printJson({{"event", "done"},
                      {"written", summary.written},
                      {"failed", summary.failed},
                      {"seconds", summary.seconds},
                      {"realtime", summary.realtime()},
                      {"up_to_date", before.upToDate},
                      {"kept", kept},
                      {"cancelled", summary.cancelled}});
  std::printf("%s written, %zu failed, %zu up to date%s in %.1f s, %.0f × real time%s\n",
              counted(summary.written, "file").c_str(), summary.failed, before.upToDate,
              kept > 0 ? (", " + std::to_string(kept) + " kept").c_str() : "", summary.seconds,
              summary.realtime(), summary.cancelled ? "; stopped before the end" : "");
}

int run(const Options& options) {
  MediaCache cache(MediaCache::defaultFolder());
  auto opened = openSession(options.brief.session, cache, options.brief.json);
  if (!opened) return kSessionUnreadable;
  if (!applySettings(*opened, options.brief.set, options.brief.json)) return kWrongUsage;
  const auto request = requestOf(*opened->session, options.brief);
  if (!request) return kWrongUsage;
  const auto sheet = std::make_shared<Sheet>(
      planWithStates(*opened->session, *opened->facts, *request, opened->plugins.get()));
  RunRequest job;
  job.session = opened->session;
  job.facts = opened->facts;
  job.sheet = sheet;
  job.plugins = opened->plugins;
  WorkerPasses passes;
  job.pluginPasses = &passes;
  job.rows = rowsToMake(*sheet, options.replaceForeign);
  job.jobs = options.jobs;
  job.sync = !options.noSync;
  SheetCounts before = countRows(*sheet);
  for (const std::size_t row : job.rows)
    if (sheet->rows[row].state == RowState::Stale) --before.stale;

  Reporter reporter(*opened->session, *sheet, options.brief.json);
  const std::size_t blocked = reportBlocked(*sheet, options.replaceForeign, reporter);
  RunControl control;
  runningControl = &control;
  RunSummary summary;
  {
    const ProgressBar bar(control, sheet->rate);
    summary = makeFiles(
        job, cache, control, [&](const RowOutcome& outcome) { reporter.row(outcome); },
        [&](const SumOutcome& sum) { reporter.sum(sum); });
  }
  runningControl = nullptr;
  summary.failed += blocked;
  for (const Remark& remark : summary.remarks) reporter.remark(remark);
  printSummary(summary, before, options.brief.json);
  return summary.failed > 0 || summary.cancelled ? kFailed : kWell;
}

}  // namespace

void addRender(CLI::App& app, int& exit) {
  auto options = std::make_shared<Options>();
  CLI::App* command = app.add_subcommand("render", "Makes the files that are not up to date");
  addBriefOptions(*command, options->brief);
  command->add_option("--jobs", options->jobs, "Workers; one a core when it is left out")
      ->check(CLI::Range(1, 256));
  command->add_flag("--replace-foreign", options->replaceForeign,
                    "Also replace files that others altered or put there");
  command->add_flag("--no-sync", options->noSync, "Do not wait for the disk; a power cut may lose files");
  command->callback([options, &exit] {
    for (const int signal : {SIGINT, SIGTERM, SIGHUP}) std::signal(signal, stopRunning);
    exit = run(*options);
  });
}

}  // namespace octaphon::cli
