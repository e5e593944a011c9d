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
  return std::array<Choice<LetterCase>, 7>{{{LetterCase::AsIs, "as-is", "letters as they are"},
                                            {LetterCase::Lower, "lower", "small letters"},
                                            {LetterCase::Upper, "upper", "capitals"},
                                            {LetterCase::Snake, "snake", "snake case"},
                                            {LetterCase::Kebab, "kebab", "kebab case"},
                                            {LetterCase::Camel, "camel", "camel case"},
                                            {LetterCase::Pascal, "pascal", "pascal case"}}};
}

std::string withCase(std::string_view text, LetterCase letterCase);

}  // namespace octaphon
