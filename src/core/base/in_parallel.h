// Work on all cores, for callers that cannot include what does it.
#pragma once

#include <algorithm>
#include <cstddef>
#include <functional>

namespace octaphon {

/// Calls work(i) for each number below `count`, on any thread, and waits until all is done. The caller's is
/// one of them; it takes nothing else meanwhile.
void inParallel(std::size_t count, const std::function<void(std::size_t i)>& work);

/// Puts a list in order on two cores; `isBefore` tells all of its elements apart.
template <class List, class IsBefore>
void sortInParallel(List& list, const IsBefore& isBefore) {
  const auto begin = list.begin(), middle = begin + static_cast<std::ptrdiff_t>(list.size() / 2);
  inParallel(2, [&](std::size_t half) {
    std::sort(half == 0 ? begin : middle, half == 0 ? middle : list.end(), isBefore);
  });
  std::inplace_merge(begin, middle, list.end(), isBefore);
}

}  // namespace octaphon
