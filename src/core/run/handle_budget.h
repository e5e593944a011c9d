// How many files a run may have open, out of what the system lets a program have.
#pragma once

#include <cstddef>

namespace octaphon {

struct HandleBudget {
  int jobs;                 ///< passes at once
  std::size_t rowsPerPass;  ///< files that one pass writes
  std::size_t waiting;      ///< files that wait for their names
};

/// For so many workers; fewer where there are few handles. Media keep to a quarter of the limit by
/// themselves.
HandleBudget handleBudget(int jobs);

}  // namespace octaphon
