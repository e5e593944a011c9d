#include "regions.h"

#include <cstdio>

#include <CLI/CLI.hpp>

#include "base/unicode.h"
#include "choice.h"
#include "common.h"
#include "exchange/region_table.h"
#include "session/session_file.h"
#include "table_file.h"

namespace octaphon::cli {
namespace {

struct RegionsOptions {
  std::string session;
  std::string exportTo;
  std::string importFrom;
  TableTimes times = TableTimes::Clock;
};

int exportRegions(const Session& session, const RegionsOptions& options) {
  return exportTable(
      writeRegionTable(session, options.times), options.exportTo,
      counted(session.regions.size(), "region") + " and " + counted(session.markerCount(), "marker"));
}

int importRegions(const RegionsOptions& options) {
  TableOutcome outcome;
  const int exit = importTable(
      options.session, options.importFrom, [&](Session& session, std::string_view table) -> Result<void> {
        OCTAPHON_ASSIGN(outcome, readRegionTable(session, table, options.importFrom));
        return {};
      });
  for (const Error& error : outcome.refused) printError(error);
  if (exit != kWell) return exit;
  std::printf("%s added, %zu changed; %s added, %zu changed; %zu as they were, %zu refused\n",
              counted(outcome.regionsAdded, "region").c_str(), outcome.regionsChanged,
              counted(outcome.markersAdded, "marker").c_str(), outcome.markersChanged, outcome.unchanged,
              outcome.refused.size());
  return outcome.refused.empty() ? kWell : kFailed;
}

int runRegions(const RegionsOptions& options) {
  if (options.exportTo.empty()) return importRegions(options);
  const auto session = loadSession(options.session);
  return session ? exportRegions(*session, options) : fails(session.error(), kSessionUnreadable);
}

}  // namespace

void addRegions(CLI::App& app, int& exit) {
  auto options = std::make_shared<RegionsOptions>();
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
  command->callback([options, &exit] { exit = runRegions(*options); });
}

}  // namespace octaphon::cli
