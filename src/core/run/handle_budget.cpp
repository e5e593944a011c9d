#include "run/handle_budget.h"

#include <sys/resource.h>

#include <algorithm>
#include <filesystem>

namespace octaphon {
namespace {

constexpr std::size_t kSpare = 8;        // for the receipt, the cache, a progress bar …
constexpr std::size_t kMostRows = 4096;  // of a pass: encoders need memory too

std::size_t openNow() {
  std::error_code error;
  std::size_t count = 0;
  for (std::filesystem::directory_iterator it("/proc/self/fd", error), end; !error && it != end;
       it.increment(error))
    ++count;
  return error ? 32 : count;
}

std::size_t handleLimit() {
  rlimit limit{};
  return ::getrlimit(RLIMIT_NOFILE, &limit) == 0 ? std::min<std::size_t>(limit.rlim_cur, 1u << 20) : 256;
}

}  // namespace

HandleBudget handleBudget(int jobs) {
  const std::size_t limit = handleLimit();
  const std::size_t taken = openNow() + kSpare + limit / 4;
  // A file needs a handle, and one for a folder of its own at worst.
  const std::size_t rows = std::max<std::size_t>(2, (limit > taken ? limit - taken : 0) / 2);
  HandleBudget budget{};
  budget.jobs = std::clamp(jobs, 1, static_cast<int>(rows / 2));
  budget.rowsPerPass =
      std::clamp<std::size_t>(rows / (static_cast<std::size_t>(budget.jobs) + 1), 1, kMostRows);
  budget.waiting = budget.rowsPerPass;
  return budget;
}

}  // namespace octaphon
