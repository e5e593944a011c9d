// octaphon-cli media: the files that a session hears, and taking one as it is now.
#pragma once

#include <CLI/App.hpp>

namespace octaphon::cli {

void addMedia(CLI::App& app, int& exit);

}  // namespace octaphon::cli
