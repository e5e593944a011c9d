// octaphon-cli cache: where converted media are kept, how much there is, and clearing it.
#pragma once

#include <CLI/App.hpp>

namespace octaphon::cli {

void addCache(CLI::App& app, int& exit);

}  // namespace octaphon::cli
