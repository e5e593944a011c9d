// What views say of a whole sheet, worked out once for each, and not by those who show it.
#pragma once

#include <array>
#include <optional>
#include <string>
#include <vector>

#include "plan/sheet.h"

namespace octaphon::app {

struct BriefSummary {
  /// Of the brief, and of its rows' faults the first of each kind, with the number of rows it stands on.
  std::vector<Remark> remarks;
  enum Example { First, Longest, Odd, Twice, kExamples };
  std::array<std::optional<std::size_t>, kExamples> examples;  ///< rows whose names tell most
  std::vector<std::optional<RowState>> spans;                  ///< the weightiest state of the rows of each
};

struct SheetSummary {
  SheetCounts counts;
  std::string countText;
  std::vector<BriefSummary> briefs;
};

SheetSummary summaryOf(const Sheet& sheet);

/// The state that matters most of several: what is wrong, then what is to do.
RowState weightier(RowState a, RowState b);

}  // namespace octaphon::app
