// octaphon-cli plan: the sheet, without making anything.
#pragma once

#include <CLI/App.hpp>

#include "common.h"

namespace octaphon::cli {

void addPlan(CLI::App& app, int& exit);

/// A row's loop in the frames of its file: null where it has none. `extent`: of the file, as far as it is
/// known.
Json loopJson(const Sheet& sheet, const Row& row, const Extent& extent, bool isKnown);

/// The options that all share that plan briefs.
void addBriefOptions(CLI::App& command, BriefOptions& options);
/// Those that change the names.
void addNumberOptions(CLI::App& command, BriefOptions& options);

}  // namespace octaphon::cli
