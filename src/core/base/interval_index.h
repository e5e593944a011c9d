// Finds the intervals that overlap a stretch of time without looking at the others.
#pragma once

#include <algorithm>
#include <cstdint>
#include <type_traits>
#include <vector>

#include "base/frames.h"

namespace octaphon {

/// Half-open intervals [start, end), sorted by start, each with a number. A tree over the sorted array keeps
/// the latest end below each node, so a query costs O(log n + found).
class IntervalIndex {
 public:
  struct Interval {
    Frame start;
    Frame end;
    std::uint32_t item;
  };

  IntervalIndex() = default;
  explicit IntervalIndex(std::vector<Interval> intervals) : intervals_(std::move(intervals)) {
    std::stable_sort(intervals_.begin(), intervals_.end(),
                     [](const Interval& a, const Interval& b) { return a.start < b.start; });
    while (leaves_ < intervals_.size()) leaves_ *= 2;
    latest_.assign(2 * leaves_, -1);
    for (std::size_t i = 0; i < intervals_.size(); ++i) latest_[leaves_ + i] = intervals_[i].end;
    for (std::size_t i = leaves_ - 1; i > 0; --i) latest_[i] = std::max(latest_[2 * i], latest_[2 * i + 1]);
  }

  /// Calls visit(interval) for each that overlaps [from, to), by start. Where visit gives a frame, those that
  /// end by then are passed over from there on.
  template <class Visit>
  void overlapping(Frame from, Frame to, Visit&& visit) const {
    if (!intervals_.empty()) descend(1, 0, leaves_, from, to, visit);
  }

  std::size_t size() const { return intervals_.size(); }

 private:
  template <class Visit>
  void descend(std::size_t node, std::size_t first, std::size_t count, Frame& from, Frame to,
               Visit&& visit) const {
    if (latest_[node] <= from || first >= intervals_.size() || intervals_[first].start >= to) return;
    if (count == 1) {
      if constexpr (std::is_void_v<decltype(visit(intervals_[first]))>)
        visit(intervals_[first]);
      else
        from = std::max<Frame>(from, visit(intervals_[first]));
      return;
    }
    descend(2 * node, first, count / 2, from, to, visit);
    descend(2 * node + 1, first + count / 2, count / 2, from, to, visit);
  }

  std::vector<Interval> intervals_;
  std::vector<Frame> latest_;
  std::size_t leaves_ = 1;
};

}  // namespace octaphon
