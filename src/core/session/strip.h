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
  constexpr explicit Strip(std::size_t track) : slot_(static_cast<std::uint32_t>(track + 1)) {}
  static constexpr Strip main() { return {}; }

  constexpr bool isMain() const { return slot_ == 0; }
  /// Index in Session::tracks; main has none.
  constexpr std::size_t track() const { return slot_ - std::size_t{1}; }
  /// 0 for main, then the tracks: for lists that have a place for each strip.
  constexpr std::size_t slot() const { return slot_; }
  /// Main comes first.
  constexpr auto operator<=>(const Strip&) const = default;

 private:
  std::uint32_t slot_ = 0;
};

}  // namespace octaphon
