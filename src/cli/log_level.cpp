#include "log_level.h"

#include <chrono>
#include <cstdio>
#include <string>
#include <vector>

#include <CLI/CLI.hpp>

#include "base/log.h"
#include "base/unicode.h"
#include "common.h"

namespace octaphon::cli {
namespace {

using Clock = std::chrono::steady_clock;
constexpr LogLevel kLevels[]{LogLevel::Error, LogLevel::Warning, LogLevel::Note, LogLevel::Detail};

void tellUpTo(const std::string& level) {
  LogLevel most{};
  for (const LogLevel one : kLevels)
    if (logLevelName(one) == level) most = one;
  setLogSink(
      [begin = Clock::now()](const LogLine& line) {
        std::string words = printable(line.what, 1000);
        if (!line.name.empty()) words += ": " + printable(line.name, 1000);
        std::fprintf(messages(), "%9.3f s  %-7s  %s\n",
                     std::chrono::duration<double>(Clock::now() - begin).count(),
                     std::string(logLevelName(line.level)).c_str(), words.c_str());
      },
      most);
}

}  // namespace

void addLogLevel(CLI::App& app) {
  std::vector<std::string> names;
  std::string choices;
  for (const LogLevel level : kLevels) {
    names.emplace_back(logLevelName(level));
    choices += (choices.empty() ? "" : "|") + names.back();
  }
  app.add_option_function<std::string>("--log-level", tellUpTo, "Tell on standard error what is done")
      ->check(CLI::IsMember(names))
      ->type_name(choices);
}

}  // namespace octaphon::cli
