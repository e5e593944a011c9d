// Filters of naming templates: what becomes of a field's text behind a bar, `{region|words 2|upper}`.
#pragma once

#include <array>
#include <atomic>
#include <memory>
#include <string>
#include <string_view>
#include <vector>

#include "base/letters.h"
#include "base/pattern.h"
#include "base/result.h"
#include "naming/abbreviations.h"

namespace octaphon {

enum class FilterKind {
  Upper,
  Lower,
  Title,
  Camel,
  Pascal,
  Snake,
  Kebab,
  Trim,
  Cut,
  Words,
  Replace,
  ReplacePattern,
  Initials,
  Short,
  Ascii,
  Most,
  Or,
  Digits,
};

/// What stands behind a filter's name.
enum class FilterArguments {
  None,
  Characters,  ///< a text, may be missing
  Count,       ///< a number that is not 0, below it from the end
  TwoTexts,
  Language,  ///< one of kSpellings, may be missing
  Length,    ///< a number from 1
  Text,
  DigitCount,  ///< 1 … 9
};

struct FilterInfo {
  FilterKind kind;
  std::string_view name;
  FilterArguments arguments;
  std::string_view meaning;  ///< for tips and documents
  std::string_view example;  ///< its name with arguments
};
/// In the order of FilterKind.
inline constexpr std::array<FilterInfo, 18> kFilters{{
    {FilterKind::Upper, "upper", FilterArguments::None, "capitals", "upper"},
    {FilterKind::Lower, "lower", FilterArguments::None, "small letters", "lower"},
    {FilterKind::Title, "title", FilterArguments::None, "the first letter of each word large", "title"},
    {FilterKind::Camel, "camel", FilterArguments::None, "words joined, the first small: `winchStart`",
     "camel"},
    {FilterKind::Pascal, "pascal", FilterArguments::None, "words joined, each large: `WinchStart`", "pascal"},
    {FilterKind::Snake, "snake", FilterArguments::None, "small words joined by `_`", "snake"},
    {FilterKind::Kebab, "kebab", FilterArguments::None, "small words joined by `-`", "kebab"},
    {FilterKind::Trim, "trim", FilterArguments::Characters,
     "these characters go from both ends; without any, spaces and `_ - .`", "trim \"_-\""},
    {FilterKind::Cut, "cut", FilterArguments::Count,
     "so many characters go from the front, or (below 0) from the end", "cut 2"},
    {FilterKind::Words, "words", FilterArguments::Count, "the first so many words, or (below 0) the last",
     "words -1"},
    {FilterKind::Replace, "replace", FilterArguments::TwoTexts, "one text by another, wherever it is",
     "replace \" \" \"\""},
    {FilterKind::ReplacePattern, "pattern", FilterArguments::TwoTexts,
     "what a regular expression finds; `$1` is its first group", "pattern \"[0-9]+$\" \"\""},
    {FilterKind::Initials, "initials", FilterArguments::None,
     "the first letter of each word; numbers stay whole", "initials"},
    {FilterKind::Short, "short", FilterArguments::None, "words as the session's abbreviations have them",
     "short"},
    {FilterKind::Ascii, "ascii", FilterArguments::Language,
     "letters without marks, `de`: ä as ae, `nordic`: å as aa, ø as oe; what is no Latin letter becomes `_`",
     "ascii de"},
    {FilterKind::Most, "max", FilterArguments::Length,
     "at most so many characters, cut before the number at the end", "max 20"},
    {FilterKind::Or, "or", FilterArguments::Text, "this text where there is none", "or \"Main\""},
    {FilterKind::Digits, "digits", FilterArguments::DigitCount, "the last number has so many digits",
     "digits 3"},
}};
constexpr const FilterInfo& filterInfo(FilterKind kind) { return kFilters[static_cast<std::size_t>(kind)]; }

struct SpellingName {
  Spelling spelling;
  std::string_view name;
};
inline constexpr std::array<SpellingName, 3> kSpellings{
    {{Spelling::Plain, "plain"}, {Spelling::German, "de"}, {Spelling::Nordic, "nordic"}}};

/// A compiled pattern that gives up for good once it took too long.
struct FilterPattern {
  explicit FilterPattern(Pattern compiled) : pattern(std::move(compiled)) {}
  Pattern pattern;
  std::atomic<bool> gaveUp = false;
};

struct Filter {
  FilterKind kind = FilterKind::Upper;
  std::vector<std::string> texts;  ///< as given
  int number = 0;                  ///< of Count, Length, DigitCount; index in kSpellings of Language
  std::shared_ptr<FilterPattern> pattern = {};
  bool operator==(const Filter& other) const {
    return kind == other.kind && texts == other.texts && number == other.number;
  }
};

/// What filters share, and what they have to say.
struct FilterContext {
  const Abbreviations* abbreviations = nullptr;
  bool isLost = false;  ///< `ascii` met what is no Latin letter
};

/// Checks its arguments and compiles it. BadValue or Syntax with text and cure, without a place.
Result<Filter> makeFilter(const FilterInfo& info, std::vector<std::string> arguments);
std::string filtered(const Filter& filter, std::string text, FilterContext& context);

/// At most `most` characters, cut before the number at the end (with what separates it) where there is one.
std::string shortened(std::string_view text, std::size_t most);

}  // namespace octaphon
