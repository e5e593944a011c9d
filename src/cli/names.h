// octaphon-cli names: the names that a template would give.
#pragma once

#include <CLI/App.hpp>

namespace octaphon::cli {

/// Adds the subcommand; when it runs, it leaves its exit code in `exit`.
void addNames(CLI::App& app, int& exit);

}  // namespace octaphon::cli
