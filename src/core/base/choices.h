// Enumerations and the words for their values, written down once: choicesOf(E) beside each enumeration gives
// a table of Choice<E>, in the order of the values.
#pragma once

#include <optional>
#include <string_view>

namespace octaphon {

template <class E>
struct Choice {
  E value;
  std::string_view name;         ///< in files and on the command line: `begins-here`
  std::string_view words = {};   ///< for people, as part of a sentence: `only what begins here`
  std::string_view label = {};   ///< beside a button; empty: the words
  std::string_view detail = {};  ///< what it means, in a sentence; may be empty
};

template <class E>
inline constexpr auto kChoices = choicesOf(E{});

/// The choice of a value that stands in its table; values are numbered from 0 without gaps.
template <class E>
constexpr const Choice<E>& choiceOf(E value) {
  return kChoices<E>[static_cast<std::size_t>(value)];
}

template <class E>
constexpr std::string_view nameOf(E value) {
  return choiceOf(value).name;
}

/// Nothing where no value has the name.
template <class E>
constexpr std::optional<E> parseChoice(std::string_view name) {
  for (const Choice<E>& choice : kChoices<E>)
    if (choice.name == name) return choice.value;
  return std::nullopt;
}

}  // namespace octaphon
