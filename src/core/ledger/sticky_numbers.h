// Numbers in names that were delivered, and stick to what they were given to.
#pragma once

#include <array>
#include <cstdint>
#include <string>
#include <unordered_map>

#include "base/hash.h"

namespace octaphon {

/// What numbers in names count.
enum class Counter {
  All,         ///< pairs of span and source of a brief
  OfSpan,      ///< those of one span
  OfSource,    ///< those of one source
  AmongNames,  ///< those whose name is otherwise equal
  Sources,     ///< sources of which anything is delivered
};
inline constexpr std::size_t kCounters = 5;

/// A number for each counter; 0: none was given.
struct NumberSet {
  std::array<std::uint32_t, kCounters> numbers{};
  std::uint32_t& operator[](Counter counter) { return numbers[static_cast<std::size_t>(counter)]; }
  std::uint32_t operator[](Counter counter) const { return numbers[static_cast<std::size_t>(counter)]; }
  bool operator==(const NumberSet&) const = default;
};

/// What one pair of span and source was given.
struct PairNumbers {
  NumberSet numbers;
  Digest name;  ///< of what its name is otherwise, which AmongNames counts in
  bool operator==(const PairNumbers&) const = default;
};

/// Of one brief.
struct StickyNumbers {
  std::unordered_map<std::string, PairNumbers>
      pairs;       ///< by key: `region:r1/track:t1`; those that are gone too
  NumberSet most;  ///< how many each counter had when it was first delivered: their digits stay
  bool operator==(const StickyNumbers&) const = default;
};

}  // namespace octaphon
