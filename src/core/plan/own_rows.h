// What single rows of a brief have otherwise than it says.
#pragma once

#include <string>
#include <string_view>
#include <unordered_map>
#include <unordered_set>
#include <vector>

#include "brief/row_exception.h"
#include "plan/sheet.h"

namespace octaphon {

/// Sounds with ends or a loop of their own: each has a span of its own, right behind the one it stands for.
class OwnSounds {
 public:
  /// Adds those spans. Sources and spans of the brief have been chosen. `planned.brief` must live as long.
  explicit OwnSounds(PlannedBrief& planned);
  /// Whose ends and loop a span has besides; null: nobody's.
  const RowException* of(std::size_t span) const { return exceptions_[span]; }

 private:
  std::vector<const RowException*> exceptions_;  // by span
};

/// What a brief says of its rows by their keys: exceptions, held back, accepted.
class RowMarks {
 public:
  /// Keeps a reference.
  explicit RowMarks(const Brief& brief);
  bool isEmpty() const { return held_.empty() && exceptions_.empty() && accepted_.empty(); }
  void mark(Row& row, std::string_view wholeKey) const;
  std::vector<std::uint32_t> acceptedOfBrief() const;

 private:
  std::size_t head_;  // of whole keys: the brief's id and a slash
  std::unordered_set<std::string_view> held_;
  std::unordered_map<std::string_view, std::uint32_t> exceptions_;
  std::unordered_map<std::string_view, std::vector<std::uint32_t>> accepted_;
};

/// What a row has of its own, in words: `named by hand, mono, tail and loop of its own`.
std::string exceptionText(const RowException& own);

/// What is set in `more`, else what `base` has.
OwnEnds laidOver(OwnEnds base, const OwnEnds& more);
OwnLoop laidOver(OwnLoop base, const OwnLoop& more);

}  // namespace octaphon
