// octaphon-cli clean: left-over files to the trash.
#pragma once

#include <CLI/App.hpp>

namespace octaphon::cli {

void addClean(CLI::App& app, int& exit);

}  // namespace octaphon::cli
