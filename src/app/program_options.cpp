#include "app/program_options.h"

#include <CLI/CLI.hpp>

namespace octaphon::app {

void describe(CLI::App& app, ProgramOptions& options) {
  app.name("octaphon");
  app.description("Renders many named files from one session, in a window");
  app.set_version_flag("--version", OCTAPHON_VERSION);
  app.add_option("session", options.file,
                 "Session to open (*.octaphon), or briefs for the one that is open (*.octaphon-brief)");
  app.add_flag("--new", options.isNew, "Begin a new session");
  app.add_flag("--separate", options.isSeparate, "A window of its own, where one is there already");
}

}  // namespace octaphon::app
