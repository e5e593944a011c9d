// octaphon-cli report: notes, lists and checksums of what was delivered into a folder.
#pragma once

#include <CLI/App.hpp>

namespace octaphon::cli {

void addReport(CLI::App& app, int& exit);

}  // namespace octaphon::cli
