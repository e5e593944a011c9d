// octaphon-cli render: makes the files.
#pragma once

#include <CLI/App.hpp>

namespace octaphon::cli {

void addRender(CLI::App& app, int& exit);

}  // namespace octaphon::cli
