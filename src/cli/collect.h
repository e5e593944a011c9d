// octaphon-cli collect: a session of what was delivered.
#pragma once

#include <CLI/App.hpp>

namespace octaphon::cli {

void addCollect(CLI::App& app, int& exit);

}  // namespace octaphon::cli
