#include "manual/programs.h"

#include <CLI/CLI.hpp>

#include "app/program_options.h"
#include "commands.h"
#include "receiver/options.h"

namespace octaphon::manual {
namespace {

template <class Options, class Describe>
Command described(const char* name, const Describe& describe) {
  CLI::App app;
  Options options;
  describe(app, options);
  return commandOf(app, name);
}

Command worker() {
  Command worker;
  worker.name = "octaphon-worker";
  worker.text = "Runs plug-ins for octaphon and octaphon-cli";
  return worker;
}

}  // namespace

Command commandLine() {
  CLI::App app;
  int exit = 0;
  cli::describeCommands(app, exit);
  return commandOf(app, "octaphon-cli");
}

std::vector<Command> programs() {
  return {commandLine(), described<app::ProgramOptions>("octaphon", app::describe),
          described<receiver::Options>("octaphon-receiver", receiver::describe), worker()};
}

}  // namespace octaphon::manual
