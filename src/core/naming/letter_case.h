// One case setting for a whole name, literal text included; applied to each part between slashes.
#pragma once

#include <array>
#include <string>
#include <string_view>

#include "base/choices.h"

namespace octaphon {

enum class LetterCase {
  AsIs,
  Lower,  ///< `winch/start 01` stays as it is but for capitals
  Upper,
  Snake,   ///< words in small letters joined by `_`
  Kebab,   ///< the same joined by `-`
  Camel,   ///< `winchStart01`
  Pascal,  ///< `WinchStart01`
};
constexpr auto choicesOf(LetterCase) {
  return std::array<Choice<LetterCase>, 7>{
      {{LetterCase::AsIs, "as-is", "letters as they are", "As they are:  Winch Start 01"},
       {LetterCase::Lower, "lower", "small letters", "Small letters:  winch start 01"},
       {LetterCase::Upper, "upper", "capitals", "Capitals:  WINCH START 01"},
       {LetterCase::Snake, "snake", "snake case", "Snake case:  winch_start_01"},
       {LetterCase::Kebab, "kebab", "kebab case", "Kebab case:  winch-start-01"},
       {LetterCase::Camel, "camel", "camel case", "Camel case:  winchStart01"},
       {LetterCase::Pascal, "pascal", "pascal case", "Pascal case:  WinchStart01"}}};
}

std::string withCase(std::string_view text, LetterCase letterCase);

}  // namespace octaphon
