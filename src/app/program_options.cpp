#include "app/program_options.h"

#include <CLI/CLI.hpp>

namespace octaphon::app {

void describe(CLI::App& app, ProgramOptions& options) {
  app.name("octaphon");
  app.description("Renders many named files from one session, in a window");
  app.set_version_flag("--version", OCTAPHON_VERSION);
  app.add_option("session", options.session, "Session to open (*.octaphon)");
  app.add_flag("--new", options.isNew, "Begin a new session");
}

}  // namespace octaphon::app
