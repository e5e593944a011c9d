// octaphon-cli check: whether what was delivered is right, as it lies on the disk.
#pragma once

#include <CLI/App.hpp>

namespace octaphon::cli {

void addCheck(CLI::App& app, int& exit);

}  // namespace octaphon::cli
