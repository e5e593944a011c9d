// octaphon-cli plan: the sheet, without making anything.
#pragma once

#include <CLI/App.hpp>

#include "common.h"

namespace octaphon::cli {

void addPlan(CLI::App& app, int& exit);

/// A session, and the sheet that options ask for.
struct Planned {
  Opened opened;
  std::shared_ptr<Sheet> sheet;
};
/// Tells what is wrong, and gives nothing and the exit code.
std::optional<Planned> planAsAsked(const BriefOptions& options, MediaCache& cache, int& exit);

/// A row's loop in the frames of its file: null where it has none. `extent`: of the file, as far as it is
/// known.
Json loopJson(const Sheet& sheet, const Row& row, const Extent& extent, bool isKnown);

/// The options that all share that plan briefs.
void addBriefOptions(CLI::App& command, BriefOptions& options);
/// Those that change the names.
void addNumberOptions(CLI::App& command, BriefOptions& options);

}  // namespace octaphon::cli
