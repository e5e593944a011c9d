// octaphon-cli info: what is in a session.
#pragma once

#include <CLI/App.hpp>

namespace octaphon::cli {

/// Adds the subcommand; when it runs, it leaves its exit code in `exit`.
void addInfo(CLI::App& app, int& exit);

}  // namespace octaphon::cli
