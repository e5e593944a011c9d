// octaphon-cli status: whether what was delivered is up to date.
#pragma once

#include <CLI/App.hpp>

namespace octaphon::cli {

void addStatus(CLI::App& app, int& exit);

}  // namespace octaphon::cli
