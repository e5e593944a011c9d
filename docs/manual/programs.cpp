#include "manual/programs.h"

#include <CLI/CLI.hpp>

#include "commands.h"
#ifdef OCTAPHON_HAS_WINDOWS
#include "app/program_options.h"
#include "receiver/options.h"
#endif

namespace octaphon::manual {
namespace {

Command worker() {
  Command worker;
  worker.name = "octaphon-worker";
  worker.text = "Runs plug-ins for octaphon and octaphon-cli";
  return worker;
}

#ifdef OCTAPHON_HAS_WINDOWS
template <class Options, class Describe>
Command described(const char* name, const Describe& describe) {
  CLI::App app;
  Options options;
  describe(app, options);
  return commandOf(app, name);
}

std::vector<Command> programsWithWindows() {
  return {described<app::ProgramOptions>("octaphon", app::describe),
          described<receiver::Options>("octaphon-receiver", receiver::describe)};
}
#else
std::vector<Command> programsWithWindows() { return {}; }
#endif

}  // namespace

Command commandLine() {
  CLI::App app;
  int exit = 0;
  cli::describeCommands(app, exit);
  return commandOf(app, "octaphon-cli");
}

std::vector<Command> programs() {
  std::vector<Command> all{commandLine(), worker()};
  for (Command& program : programsWithWindows()) all.push_back(std::move(program));
  return all;
}

}  // namespace octaphon::manual
