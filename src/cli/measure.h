// octaphon-cli measure: what has to be known before files are shared among processes.
#pragma once

#include <CLI/App.hpp>

namespace octaphon::cli {

void addMeasure(CLI::App& app, int& exit);

}  // namespace octaphon::cli
