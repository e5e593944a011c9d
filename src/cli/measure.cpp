#include "measure.h"

#include <cstdio>
#include <set>

#include <CLI/CLI.hpp>

#include "base/pending_file.h"
#include "base/unicode.h"
#include "plan.h"
#include "progress_line.h"
#include "run/measure.h"
#include "run/worker_passes.h"
#include "sharing.h"

namespace octaphon::cli {
namespace {

struct MeasureOptions {
  BriefOptions brief;
  Share share;
  int jobs = 0;
  std::string file;
};

/// What could not be heard whole.
std::size_t missingOf(const Sheet& sheet, const SignalContext& context, const Share& share,
                      const std::vector<Measured>& measured) {
  std::vector<std::string> missing = keysToMeasure(sheet, context, share);
  std::set<std::string_view> heard;
  for (const Measured& one : measured) heard.insert(one.key);
  std::erase_if(missing, [&](const std::string& key) { return heard.contains(key); });
  return missing.size();
}

int runMeasure(const MeasureOptions& options) {
  MediaCache cache(MediaCache::defaultFolder());
  int exit = kWell;
  const auto planned = planAsAsked(options.brief, cache, exit);
  if (!planned) return exit;
  const Opened& opened = planned->opened;
  const std::shared_ptr<Sheet>& sheet = planned->sheet;
  WorkerPasses passes;
  const MeasureRequest request{opened.session, opened.facts,  sheet,       opened.plugins,
                               &passes,        options.share, options.jobs};
  RunControl control;
  std::vector<Measured> measured;
  {
    const ProgressLine line(control, sheet->rate, options.brief.json, false);
    measured = measureSounds(request, cache, control);
  }
  if (const auto written = replaceFile(options.file, measuredText(measured)); !written)
    return fails(written.error(), kFailed, options.brief.json);
  const SessionContext context(*opened.session, *opened.facts, opened.plugins.get());
  const std::size_t missing = missingOf(*sheet, context.signal, options.share, measured);
  if (options.brief.json)
    printJson({{"measured", measured.size()}, {"failed", missing}, {"file", options.file}});
  else
    std::printf("%s measured, %zu failed; written to %s\n", counted(measured.size(), "sound").c_str(),
                missing, printable(options.file).c_str());
  return missing > 0 ? kFailed : kWell;
}

}  // namespace

void addMeasure(CLI::App& app, int& exit) {
  auto options = std::make_shared<MeasureOptions>();
  CLI::App* command = app.add_subcommand("measure",
                                         "Hears how long tails ring and how loud sounds are, without making "
                                         "files, so that the files can be shared");
  addBriefOptions(*command, options->brief);
  addShareOption(*command, options->share);
  command->add_option("--jobs", options->jobs, "Workers; one a core when it is left out")
      ->check(CLI::Range(1, 256));
  command->add_option("--write", options->file, "File that it is written to, for render --measured")
      ->required();
  command->callback([options, &exit] { exit = runMeasure(*options); });
}

}  // namespace octaphon::cli
