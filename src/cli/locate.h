// octaphon-cli locate: from a delivered file back to its row.
#pragma once

#include <CLI/App.hpp>

namespace octaphon::cli {

void addLocate(CLI::App& app, int& exit);

}  // namespace octaphon::cli
