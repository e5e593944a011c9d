// Words, characters and letters of a text, as naming filters take it apart. Text is UTF-8.
#pragma once

#include <string>
#include <string_view>
#include <vector>

namespace octaphon {

/// Bytes [begin, end) of a text.
struct TextRange {
  std::size_t begin = 0, end = 0;
  std::string_view of(std::string_view text) const { return text.substr(begin, end - begin); }
};

/// Where words stand: runs of letters and digits. A small letter before a large one ends a word; apostrophes
/// inside end none.
std::vector<TextRange> wordRanges(std::string_view text);

/// What people take for characters: letters with all their marks (extended grapheme clusters, Unicode UAX
/// #29).
std::vector<std::string_view> charactersOf(std::string_view text);

/// The first letter of each word large, the others small; what is between words stays.
std::string titleCase(std::string_view text);

/// How letters that ASCII does not have are written without their marks.
enum class Spelling {
  Plain,   ///< `ä` as `a`: the marks go (CLDR transform Latin-ASCII)
  German,  ///< `ä` as `ae` (CLDR transform de-ASCII)
  Nordic,  ///< `å` as `aa`, `ä` and `æ` as `ae`, `ö` and `ø` as `oe` (ICAO Doc 9303-3, table of
           ///< transliterations, from memory)
};
/// The text in ASCII. A character that is no Latin letter and has no spelling there becomes `_`, and `isLost`
/// is set. Controls stay.
std::string asciiText(std::string_view text, Spelling spelling, bool& isLost);

}  // namespace octaphon
