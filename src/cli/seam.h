// octaphon-cli seam: how good the join of a loop is.
#pragma once

#include <CLI/App.hpp>

namespace octaphon::cli {

void addSeam(CLI::App& app, int& exit);

}  // namespace octaphon::cli
