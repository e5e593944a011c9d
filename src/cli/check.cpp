#include "check.h"

#include <cstdio>
#include <filesystem>
#include <map>

#include <CLI/CLI.hpp>

#include "base/unicode.h"
#include "check_report.h"
#include "plan.h"
#include "run/check_sheet.h"

namespace octaphon::cli {
namespace {

namespace fs = std::filesystem;

struct CheckOptions : BriefOptions {
  bool onlyBytes = false;
  bool figures = false;
  bool changes = false;
  std::string before;  // a folder; empty: the edition before
};

/// What is checked together: a folder with its receipt.
using Requests = std::map<FolderPath, CheckRequest>;

std::optional<Requests> requestsOf(const CheckOptions& options, int& exit) {
  std::error_code error;
  if (fs::is_directory(options.session, error)) {
    Requests requests;
    CheckRequest& request = requests[{options.session}];
    request.base = {options.session};
    request.briefs.insert(options.briefs.begin(), options.briefs.end());
    return requests;
  }
  MediaCache cache(MediaCache::defaultFolder());
  const auto planned = planAsAsked(options, cache, exit);
  return planned ? std::optional(checksOf(*planned->sheet, !options.briefs.empty())) : std::nullopt;
}

/// False where it is told why not.
bool tellChanges(const FolderPath& base, const CheckRequest& request, const CheckOptions& options) {
  if (!options.changes && options.before.empty()) return true;
  ChangesRequest asked{base, request.briefs};
  if (!options.before.empty()) asked.before = FolderPath{options.before};
  const auto changes = changesSince(asked);
  if (!changes) {
    printError(changes.error(), options.json);
    return false;
  }
  printChanges(*changes, options.json);
  return changes->problems.empty();
}

int runCheck(const CheckOptions& options) {
  int exit = kWell;
  auto requests = requestsOf(options, exit);
  if (!requests) return exit;
  std::size_t files = 0, findings = 0, accepted = 0;
  bool isAllChecked = true;
  for (auto& [base, request] : *requests) {
    request.decodes = !options.onlyBytes;
    request.measures = options.figures && !options.onlyBytes;
    const auto report = checkFolder(request);
    if (!report) {
      printError(report.error(), options.json);
      isAllChecked = false;
      continue;
    }
    files += report->files.size();
    findings += report->open();
    accepted += report->accepted();
    if (options.figures) printFigures(*report, base, options.json);
    printFindings(*report, base, options.json);
    isAllChecked = tellChanges(base, request, options) && isAllChecked;
  }
  if (options.json)
    printJson({{"event", "done"},
               {"files", files},
               {"findings", findings},
               {"accepted", accepted},
               {"decoded", !options.onlyBytes}});
  else
    std::printf("%s checked%s: %s%s\n", counted(files, "file").c_str(),
                options.onlyBytes ? " by their bytes alone, not decoded" : "",
                findings == 0 ? "nothing found" : (counted(findings, "finding")).c_str(),
                accepted == 0 ? "" : (", " + std::to_string(accepted) + " accepted").c_str());
  return findings == 0 && isAllChecked ? kWell : kFailed;
}

}  // namespace

void addCheck(CLI::App& app, int& exit) {
  auto options = std::make_shared<CheckOptions>();
  CLI::App* command = app.add_subcommand(
      "check",
      "Checks delivered files as they lie on the disk: of a session, or of a folder from its receipt alone");
  addBriefOptions(*command, *options);
  command->get_option("session")->description(
      "Session file (*.octaphon), or a folder that files were delivered into");
  command->get_option("--brief")->description(
      "Only the brief of this name, or of a folder's receipt of this id; may be given several times");
  command->remove_option(command->get_option("--thorough"));
  command->add_flag("--only-bytes", options->onlyBytes,
                    "Compare bytes with the receipt, and decode nothing: for slow disks, and less sure");
  command->add_flag("--figures", options->figures,
                    "Say what was measured of each file, with true peak and loudness, and what was asked");
  command->add_flag("--changes", options->changes, "Say what is otherwise than in the edition before");
  command->add_option("--before", options->before,
                      "Say what is otherwise than in this folder, which holds the last delivery");
  command->callback([options, &exit] { exit = runCheck(*options); });
}

}  // namespace octaphon::cli
