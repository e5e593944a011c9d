#include <csignal>

#include <CLI/CLI.hpp>

#include "cache.h"
#include "common.h"
#include "info.h"
#include "new.h"
#include "plan.h"
#include "regions.h"
#include "render.h"

int main(int argc, char** argv) {
  using namespace octaphon::cli;
  // A closed pipe or a size limit is an error of a call, not the end of the program.
  std::signal(SIGPIPE, SIG_IGN);
  std::signal(SIGXFSZ, SIG_IGN);
  CLI::App app("Octaphon: many named files from one session");
  app.set_version_flag("--version", OCTAPHON_VERSION);
  app.require_subcommand(1);
  int exit = kWell;
  addNew(app, exit);
  addInfo(app, exit);
  addRegions(app, exit);
  addPlan(app, exit);
  addRender(app, exit);
  addCache(app, exit);
  try {
    app.parse(argc, argv);
  } catch (const CLI::ParseError& error) {
    return app.exit(error) == 0 ? kWell : kWrongUsage;
  }
  return exit;
}
