#include "regions.h"

#include <cstdio>

#include <CLI/CLI.hpp>

#include "base/pending_file.h"
#include "base/unicode.h"
#include "choice.h"
#include "common.h"
#include "exchange/region_table.h"
#include "session/session_file.h"
#include "session/session_lock.h"

namespace octaphon::cli {
namespace {

struct Options {
  std::string session;
  std::string exportTo;
  std::string importFrom;
  TableTimes times = TableTimes::Clock;
};

int exportTable(const Session& session, const Options& options) {
  const std::string table = writeRegionTable(session, options.times);
  if (options.exportTo == "-") {
    std::fwrite(table.data(), 1, table.size(), stdout);
    return kWell;
  }
  if (auto written = replaceFile(options.exportTo, table); !written) return fails(written.error(), kFailed);
  std::printf("%s and %s written to %s\n", counted(session.regions.size(), "region").c_str(),
              counted(session.markerCount(), "marker").c_str(), printable(options.exportTo).c_str());
  return kWell;
}

/// The session is read when it is locked: what another program saves before is not lost.
int importTable(const Options& options) {
  const auto lock = SessionLock::take(options.session);
  if (!lock) return fails(lock.error(), kFailed);
  auto session = loadSession(options.session);
  if (!session) return fails(session.error(), kSessionUnreadable);
  const auto bytes = readFile(options.importFrom, kMaxTableBytes);
  if (!bytes) return fails(bytes.error(), kFailed);
  const auto outcome = readRegionTable(*session, *bytes, options.importFrom);
  if (!outcome) return fails(outcome.error(), kFailed);
  for (const Error& error : outcome->refused) printError(error);
  if (auto saved = saveSession(*session, options.session); !saved) return fails(saved.error(), kFailed);
  std::printf("%s added, %zu changed; %s added, %zu changed; %zu as they were, %zu refused\n",
              counted(outcome->regionsAdded, "region").c_str(), outcome->regionsChanged,
              counted(outcome->markersAdded, "marker").c_str(), outcome->markersChanged, outcome->unchanged,
              outcome->refused.size());
  return outcome->refused.empty() ? kWell : kFailed;
}

int run(const Options& options) {
  if (options.exportTo.empty()) return importTable(options);
  const auto session = loadSession(options.session);
  return session ? exportTable(*session, options) : fails(session.error(), kSessionUnreadable);
}

}  // namespace

void addRegions(CLI::App& app, int& exit) {
  auto options = std::make_shared<Options>();
  CLI::App* command =
      app.add_subcommand("regions", "Writes regions and markers as a table, or reads them from one");
  command->add_option("session", options->session, "Session file (*.octaphon)")->required();
  CLI::Option_group* way = command->add_option_group("way");
  way->add_option("--export", options->exportTo, "Write a table (CSV); - is standard output");
  way->add_option("--import", options->importFrom, "Read a table (CSV) and save the session");
  way->require_option(1);
  addChoice<TableTimes>(
      *command, "--times", options->times,
      {{"clock", TableTimes::Clock}, {"samples", TableTimes::Frames}, {"timecode", TableTimes::Timecode}},
      "How times are written");
  command->callback([options, &exit] { exit = run(*options); });
}

}  // namespace octaphon::cli
