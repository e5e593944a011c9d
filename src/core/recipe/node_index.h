// The place of a node in a recipe.
#pragma once

#include <compare>
#include <cstddef>
#include <cstdint>

namespace octaphon {

class NodeIndex {
 public:
  constexpr NodeIndex() = default;  ///< no node: nothing sounds there
  constexpr explicit NodeIndex(std::size_t place) : place_(static_cast<std::int32_t>(place)) {}

  constexpr bool isSilent() const { return place_ < 0; }
  /// In SpanRecipe::nodes(); silence has none.
  constexpr std::size_t place() const { return static_cast<std::size_t>(place_); }
  constexpr auto operator<=>(const NodeIndex&) const = default;

 private:
  std::int32_t place_ = -1;
};
inline constexpr NodeIndex kSilentNode{};

}  // namespace octaphon
