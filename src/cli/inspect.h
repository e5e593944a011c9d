// octaphon-cli inspect: what audio files say of themselves.
#pragma once

#include <CLI/App.hpp>

namespace octaphon::cli {

void addInspect(CLI::App& app, int& exit);

}  // namespace octaphon::cli
