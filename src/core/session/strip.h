// Where a sound passes: a track, group or return, or main, which everything is in.
#pragma once

#include <compare>
#include <cstddef>
#include <cstdint>

namespace octaphon {

/// A track by its place in Session::tracks, or main. Not made of a number, nor read as one, but where that is
/// said: so that places of clips, inserts and tracks are not taken for each other.
class Strip {
 public:
  constexpr Strip() = default;  ///< main
  constexpr explicit Strip(std::size_t track) : index_(static_cast<std::int32_t>(track)) {}
  static constexpr Strip main() { return {}; }

  constexpr bool isMain() const { return index_ < 0; }
  /// Index in Session::tracks; main has none.
  constexpr std::size_t track() const { return static_cast<std::size_t>(index_); }
  /// 0 for main, then the tracks: for lists that have a place for each strip.
  constexpr std::size_t slot() const { return static_cast<std::size_t>(index_ + 1); }
  /// Main comes first.
  constexpr auto operator<=>(const Strip&) const = default;

 private:
  std::int32_t index_ = -1;
};

}  // namespace octaphon
