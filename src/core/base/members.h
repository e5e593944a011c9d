// How many members an aggregate has, so that a list of them can be proved complete while it is compiled.
#pragma once

#include <cstddef>
#include <type_traits>

namespace octaphon {
namespace members {

struct AnyNumber {
  template <class T>
  requires(std::is_arithmetic_v<T> || std::is_enum_v<T>) operator T() const;
};
struct AnyOther {
  template <class T>
  requires(!std::is_arithmetic_v<T> && !std::is_enum_v<T>) operator T() const;
};

/// One initialiser more at a time, each of the sort that fits, for as long as one fits.
template <class T, class... Taken>
constexpr std::size_t count() {
  // Others first: a number would be taken by the first member of an aggregate inside.
  if constexpr (requires { T{Taken{}..., AnyOther{}}; })
    return count<T, Taken..., AnyOther>();
  else if constexpr (requires { T{Taken{}..., AnyNumber{}}; })
    return count<T, Taken..., AnyNumber>();
  else
    return sizeof...(Taken);
}

}  // namespace members

/// Members of an aggregate without bases.
template <class T>
inline constexpr std::size_t kMemberCount = members::count<T>();

}  // namespace octaphon
