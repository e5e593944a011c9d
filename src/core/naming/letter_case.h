// One case setting for a whole name, literal text included; applied to each part between slashes.
#pragma once

#include <array>
#include <optional>
#include <string>
#include <string_view>

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
inline constexpr std::array kLetterCases{LetterCase::AsIs,  LetterCase::Lower, LetterCase::Upper,
                                         LetterCase::Snake, LetterCase::Kebab, LetterCase::Camel,
                                         LetterCase::Pascal};

std::string_view letterCaseName(LetterCase letterCase);  ///< as in session files: `as-is`, `snake` …
std::optional<LetterCase> parseLetterCase(std::string_view name);

std::string withCase(std::string_view text, LetterCase letterCase);

}  // namespace octaphon
