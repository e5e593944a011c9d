// octaphon-cli plan: the sheet, without making anything.
#pragma once

#include <CLI/App.hpp>

#include "common.h"

namespace octaphon::cli {

void addPlan(CLI::App& app, int& exit);

/// The options `plan` and `render` share.
void addBriefOptions(CLI::App& command, BriefOptions& options);

}  // namespace octaphon::cli
