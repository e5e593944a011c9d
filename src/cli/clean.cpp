#include "clean.h"

#include <cstdio>

#include <CLI/CLI.hpp>

#include "base/unicode.h"
#include "plan.h"
#include "run/clean_folder.h"

namespace octaphon::cli {
namespace {

struct CleanOptions {
  BriefOptions brief;
  bool dryRun = false;
  bool forGood = false;
};

const char* deedOf(const CleanOptions& options) {
  return options.dryRun ? "found" : options.forGood ? "deleted" : "trashed";
}

void print(const SheetFolder& folder, const std::string& file, const Result<>& outcome,
           const CleanOptions& options) {
  if (options.brief.json) {
    Json json{{"event", "file"},
              {"folder", folder.base.full().lexically_normal().string()},
              {"file", file},
              {"result", outcome ? deedOf(options) : "failed"}};
    if (!outcome) json["error"] = outcome.error().describe();
    return printJson(json);
  }
  if (outcome)
    std::printf("%s: %s\n", options.dryRun ? "left over" : deedOf(options), printable(file, 3000).c_str());
  else
    printError(outcome.error());
}

int runClean(const CleanOptions& options) {
  MediaCache cache(MediaCache::defaultFolder());
  int exit = kWell;
  const auto planned = planAsAsked(options.brief, cache, exit);
  if (!planned) return exit;
  std::size_t done = 0, failed = 0;
  for (const SheetFolder& folder : planned->sheet->folders) {
    const auto report = [&](const std::string& file, const Result<>& outcome) {
      ++(outcome ? done : failed);
      print(folder, file, outcome, options);
    };
    if (options.dryRun)
      for (const SheetFolder::LeftOver& file : folder.leftOver) report(file.file, {});
    else
      cleanFolder(folder, options.forGood ? CleanWay::Delete : CleanWay::Trash, report);
  }
  if (options.brief.json)
    printJson({{"event", "done"}, {deedOf(options), done}, {"failed", failed}});
  else
    std::printf("%s %s\n", counted(done, "left-over file").c_str(), deedOf(options));
  return failed > 0 ? kFailed : kWell;
}

}  // namespace

void addClean(CLI::App& app, int& exit) {
  auto options = std::make_shared<CleanOptions>();
  CLI::App* command = app.add_subcommand(
      "clean", "Moves left-over files of ours to the trash: of this edition, and planned no more");
  addBriefOptions(*command, options->brief);
  command->add_flag("--dry-run", options->dryRun, "Only tell which");
  command->add_flag("--delete", options->forGood, "Delete them for good instead");
  command->callback([options, &exit] { exit = runClean(*options); });
}

}  // namespace octaphon::cli
