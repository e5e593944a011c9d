// Which passes rows are made in, what they cost, and how processes share them.
#pragma once

#include <functional>
#include <set>
#include <string>
#include <vector>

#include "ledger/receipt_journal.h"
#include "run/pass.h"

namespace octaphon {

/// By what rows have in common, in the order of time; a pass has `mostRows` at most. `folderOf`: where a
/// row's file goes; may give null where none is written. `heard`: rows whose sound is measured besides.
std::vector<PlannedPass> passesOf(const Sheet& sheet, const std::vector<std::size_t>& rows,
                                  std::size_t mostRows,
                                  const std::function<const SafeFolder*(std::size_t row)>& folderOf,
                                  const std::vector<std::size_t>& heard = {});

/// Passes that go together: those that are run up to from the session's start share one sweep.
std::vector<std::vector<PlannedPass>> groupsOf(const std::vector<PlannedPass>& passes,
                                               const ClipFinder& finder);

/// What each pass of each group costs to make, in seconds of one core of a machine that is not the fastest:
/// sound that is played, and files that are written; of a sweep, what lies before a pass is its own. Good
/// enough for shares and for the time that is left.
std::vector<std::vector<double>> costsOf(const Sheet& sheet, const SignalContext& context,
                                         const std::vector<std::vector<PlannedPass>>& groups);

/// The same of one row's file alone.
double writingCost(const Row& row);

/// Ids of the media that passes hear.
std::set<std::string> mediaOf(const std::vector<PlannedPass>& passes, const ClipFinder& finder);

/// Rows of a sheet that a share makes: of whole passes, whatever their state is; all shares together have
/// each row once, and cost about the same. Depends on the sheet's plan alone.
std::vector<std::size_t> rowsOfShare(const Sheet& sheet, const SignalContext& context, const Share& share);

}  // namespace octaphon
