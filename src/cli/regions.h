// octaphon-cli regions: regions and markers from and to a table.
#pragma once

#include <CLI/App.hpp>

namespace octaphon::cli {

/// Adds the subcommand; when it runs, it leaves its exit code in `exit`.
void addRegions(CLI::App& app, int& exit);

}  // namespace octaphon::cli
