// octaphon-cli new: a session from audio files.
#pragma once

#include <CLI/App.hpp>

namespace octaphon::cli {

/// Adds the subcommand; when it runs, it leaves its exit code in `exit`.
void addNew(CLI::App& app, int& exit);

}  // namespace octaphon::cli
