#include <algorithm>
#include <clocale>
#include <csignal>
#include <cstring>
#include <exception>
#include <iostream>
#include <new>

#include <CLI/CLI.hpp>

#include "base/unicode.h"
#include "commands.h"
#include "common.h"

namespace octaphon::cli {
namespace {

/// The first argument, where it is meant as a command and is none.
std::string unknownCommand(const CLI::App& app, int count, char** arguments) {
  if (count < 2 || arguments[1][0] == '-') return {};
  for (const CLI::App* command : app.get_subcommands({}))
    if (command->get_name() == arguments[1]) return {};
  return arguments[1];
}

Error usageError(const CLI::App& app, const CLI::ParseError& error, int count, char** arguments) {
  const std::string unknown = unknownCommand(app, count, arguments);
  if (unknown.empty()) return {ErrorCode::BadValue, {}, error.what(), "--help tells what goes"};
  std::vector<std::string> names;
  for (const CLI::App* command : app.get_subcommands({})) names.push_back(command->get_name());
  return {ErrorCode::UnknownName, "'" + unknown + "'", "there is no such command",
          "There are " + listed(names)};
}

int parse(CLI::App& app, int count, char** arguments, const int& exit) {
  try {
    app.parse(count, arguments);
    return exit;
  } catch (const CLI::ParseError& error) {
    if (error.get_exit_code() == 0) return app.exit(error, std::cout, std::cerr);  // help, version
    const bool json = std::any_of(arguments, arguments + count,
                                  [](const char* given) { return std::strcmp(given, "--json") == 0; });
    printError(usageError(app, error, count, arguments), json);
    return kWrongUsage;
  }
}

int run(int count, char** arguments) {
  // A closed pipe or a size limit is an error of a call, not the end of the program.
  std::signal(SIGPIPE, SIG_IGN);
  std::signal(SIGXFSZ, SIG_IGN);
  quietenLibraries();
  std::setlocale(LC_CTYPE, "C.UTF-8");  // for patterns of names
  CLI::App app;
  int exit = kWell;
  describeCommands(app, exit);
  return withOutputChecked(parse(app, count, arguments, exit));
}

}  // namespace
}  // namespace octaphon::cli

int main(int count, char** arguments) {
  using namespace octaphon;
  try {
    return cli::run(count, arguments);
  } catch (const std::bad_alloc&) {
    cli::printError(
        {ErrorCode::Unsupported,
         {},
         "there is not enough memory",
         "Nothing was left half done; close other programs, or choose fewer briefs with --brief"});
    return cli::kFailed;
  } catch (const std::exception& problem) {  // nothing should come here; if it does, it is told
    cli::printError({ErrorCode::Unsupported,
                     {},
                     std::string("something went wrong: ") + problem.what(),
                     "Nothing was left half done; please report it"});
    return cli::kFailed;
  }
}
