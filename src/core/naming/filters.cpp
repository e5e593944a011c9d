#include "naming/filters.h"

#include <algorithm>
#include <charconv>

#include "base/ascii.h"
#include "base/unicode.h"
#include "naming/file_name.h"
#include "naming/letter_case.h"
#include "naming/nearest_word.h"

namespace octaphon {
namespace {

constexpr bool filtersStandInOrder() {
  for (std::size_t i = 0; i < kFilters.size(); ++i)
    if (static_cast<std::size_t>(kFilters[i].kind) != i) return false;
  return true;
}
static_assert(filtersStandInOrder());

constexpr int kMostCharacters = 999;

tl::unexpected<Error> wrong(std::string text, std::string cure) {
  return fail(ErrorCode::BadValue, {}, std::move(text), std::move(cure));
}

Result<int> numberIn(const FilterInfo& info, const std::vector<std::string>& arguments, int least, int most) {
  const std::string example = "Write {…|" + std::string(info.example) + "}";
  if (arguments.size() != 1) return wrong("'" + std::string(info.name) + "' takes one number", example);
  const std::string& text = arguments[0];
  int number = 0;
  const auto [end, problem] = std::from_chars(text.data(), text.data() + text.size(), number);
  if (problem != std::errc() || end != text.data() + text.size() || number == 0 || number < least ||
      number > most)
    return wrong("'" + std::string(info.name) + "' takes a number from " + std::to_string(least) + " to " +
                     std::to_string(most) + (least < 0 ? " that is not 0" : ""),
                 example);
  return number;
}

Result<> checkCount(const FilterInfo& info, const std::vector<std::string>& arguments, std::size_t least,
                    std::size_t most) {
  if (arguments.size() >= least && arguments.size() <= most) return {};
  const std::string takes = most == 0   ? "nothing"
                            : most == 1 ? (least == 0 ? "one text at most" : "one text")
                                        : "two texts";
  return wrong("'" + std::string(info.name) + "' takes " + takes + " behind it",
               "Write {…|" + std::string(info.example) + "}; texts with spaces stand in double quotes");
}

Result<int> spellingIn(const std::vector<std::string>& arguments) {
  if (arguments.empty()) return 0;
  std::vector<std::string_view> names;
  for (std::size_t i = 0; i < kSpellings.size(); ++i) {
    if (kSpellings[i].name == arguments[0]) return static_cast<int>(i);
    names.push_back(kSpellings[i].name);
  }
  const std::string_view near = nearestWord(arguments[0], names);
  return wrong(
      "'ascii' does not know the spelling '" + printable(arguments[0], 40) + "'",
      "Write {…|ascii " + std::string(near.empty() ? "de" : near) + "}; there are plain, de and nordic");
}

std::string trimmed(std::string_view text, std::string_view characters) {
  std::vector<std::string_view> parts = charactersOf(text);
  const std::vector<std::string_view> gone = charactersOf(characters);
  const auto goes = [&](std::string_view c) { return std::find(gone.begin(), gone.end(), c) != gone.end(); };
  std::size_t first = 0, last = parts.size();
  while (first < last && goes(parts[first])) ++first;
  while (last > first && goes(parts[last - 1])) --last;
  std::string result;
  for (std::size_t i = first; i < last; ++i) result += parts[i];
  return result;
}

std::string cut(std::string_view text, int count) {
  const std::vector<std::string_view> parts = charactersOf(text);
  const std::size_t gone = std::min(parts.size(), static_cast<std::size_t>(std::abs(count)));
  std::string result;
  const std::size_t first = count > 0 ? gone : 0;
  for (std::size_t i = first; i < first + parts.size() - gone; ++i) result += parts[i];
  return result;
}

std::string someWords(std::string_view text, int count) {
  const std::vector<TextRange> words = wordRanges(text);
  const std::size_t kept = std::min(words.size(), static_cast<std::size_t>(std::abs(count)));
  if (kept == 0) return {};
  const TextRange all = count > 0 ? TextRange{words.front().begin, words[kept - 1].end}
                                  : TextRange{words[words.size() - kept].begin, words.back().end};
  return std::string(all.of(text));
}

std::string replaced(std::string text, std::string_view find, std::string_view with) {
  if (find.empty()) return text;
  for (std::size_t at = 0; (at = text.find(find, at)) != std::string::npos; at += with.size())
    text.replace(at, find.size(), with);
  return text;
}

std::string replacedPattern(FilterPattern& pattern, std::string text, const std::string& with) {
  if (pattern.gaveUp) return text;
  if (auto result = pattern.pattern.replaceAll(text, with)) return std::move(*result);
  pattern.gaveUp = true;
  return text;
}

std::string initialsOf(std::string_view text) {
  std::string result;
  for (const TextRange& range : wordRanges(text)) {
    const std::string_view word = range.of(text);
    result += isDigit(word[0]) ? word : charactersOf(word).front();
  }
  return result;
}

std::string withDigits(std::string text, int digits) {
  std::size_t end = text.size();
  while (end > 0 && !isDigit(text[end - 1])) --end;
  if (end == 0) return text;
  std::size_t begin = end;
  while (begin > 0 && isDigit(text[begin - 1])) --begin;
  const auto wanted = static_cast<std::size_t>(digits);
  while (end - begin > wanted && text[begin] == '0') text.erase(begin, 1), --end;
  if (end - begin < wanted) text.insert(begin, wanted - (end - begin), '0');
  return text;
}

/// Case filters count for each part between slashes.
std::string cased(const std::string& text, LetterCase letterCase) {
  std::string result;
  std::size_t begin = 0;
  while (true) {
    const std::size_t slash = text.find('/', begin);
    result += withCase(std::string_view(text).substr(begin, slash - begin), letterCase);
    if (slash == std::string::npos) return result;
    result += '/';
    begin = slash + 1;
  }
}

}  // namespace

std::string shortened(std::string_view text, std::size_t most) {
  const std::vector<std::string_view> parts = charactersOf(text);
  if (parts.size() <= most) return std::string(text);
  const auto joined = [&](std::size_t first, std::size_t last) {
    std::string result;
    for (std::size_t i = first; i < last; ++i) result += parts[i];
    return result;
  };
  std::size_t number = parts.size();
  while (number > 0 && isDigit(parts[number - 1][0])) --number;
  if (number == parts.size()) return joined(0, most);
  const std::size_t digits = parts.size() - number;
  if (digits >= most) return joined(parts.size() - most, parts.size());
  const auto separates = [&](std::size_t i) {
    return parts[i].size() == 1 && std::string_view(" _-.#").find(parts[i][0]) != std::string_view::npos;
  };
  std::size_t tail = number;  // with what separates it, where there is room
  while (tail > 0 && separates(tail - 1) && parts.size() - tail + 1 < most) --tail;
  std::size_t head = most - (parts.size() - tail);
  while (tail < number && head > 0 && separates(head - 1)) --head;
  return joined(0, head) + joined(tail, parts.size());
}

Result<Filter> makeFilter(const FilterInfo& info, std::vector<std::string> arguments) {
  Filter filter;
  filter.kind = info.kind;
  switch (info.arguments) {
    case FilterArguments::None: OCTAPHON_TRY(checkCount(info, arguments, 0, 0)); break;
    case FilterArguments::Characters: OCTAPHON_TRY(checkCount(info, arguments, 0, 1)); break;
    case FilterArguments::Text: OCTAPHON_TRY(checkCount(info, arguments, 1, 1)); break;
    case FilterArguments::TwoTexts: OCTAPHON_TRY(checkCount(info, arguments, 2, 2)); break;
    case FilterArguments::Count: {
      OCTAPHON_ASSIGN(filter.number, numberIn(info, arguments, -kMostCharacters, kMostCharacters));
      break;
    }
    case FilterArguments::Length: {
      OCTAPHON_ASSIGN(filter.number, numberIn(info, arguments, 1, kMostCharacters));
      break;
    }
    case FilterArguments::DigitCount: {
      OCTAPHON_ASSIGN(filter.number, numberIn(info, arguments, 1, 9));
      break;
    }
    case FilterArguments::Language: {
      OCTAPHON_TRY(checkCount(info, arguments, 0, 1));
      OCTAPHON_ASSIGN(filter.number, spellingIn(arguments));
      break;
    }
  }
  if (info.kind == FilterKind::ReplacePattern) {
    OCTAPHON_ASSIGN(Pattern pattern, Pattern::compile(arguments[0], false));
    // Nothing is found in nothing: the replacement is tried where nothing may be found too.
    OCTAPHON_ASSIGN(const Pattern orNothing, Pattern::compile(arguments[0] + "|", false));
    OCTAPHON_TRY(orNothing.replaceAll("", arguments[1]));
    filter.pattern = std::make_shared<FilterPattern>(std::move(pattern));
  }
  filter.texts = std::move(arguments);
  return filter;
}

std::string filtered(const Filter& filter, std::string text, FilterContext& context) {
  switch (filter.kind) {
    case FilterKind::Upper: return upperCase(text);
    case FilterKind::Lower: return lowerCase(text);
    case FilterKind::Title: return titleCase(text);
    case FilterKind::Camel: return cased(text, LetterCase::Camel);
    case FilterKind::Pascal: return cased(text, LetterCase::Pascal);
    case FilterKind::Snake: return cased(text, LetterCase::Snake);
    case FilterKind::Kebab: return cased(text, LetterCase::Kebab);
    case FilterKind::Trim: return trimmed(text, filter.texts.empty() ? " _-." : filter.texts[0]);
    case FilterKind::Cut: return cut(text, filter.number);
    case FilterKind::Words: return someWords(text, filter.number);
    case FilterKind::Replace: return replaced(std::move(text), filter.texts[0], filter.texts[1]);
    case FilterKind::ReplacePattern:
      return replacedPattern(*filter.pattern, std::move(text), filter.texts[1]);
    case FilterKind::Initials: return initialsOf(text);
    case FilterKind::Short:
      return context.abbreviations == nullptr ? text : context.abbreviations->applied(text);
    case FilterKind::Ascii:
      return asciiText(text, kSpellings[static_cast<std::size_t>(filter.number)].spelling, context.isLost);
    case FilterKind::Most: return shortened(text, static_cast<std::size_t>(filter.number));
    case FilterKind::Or: return text.empty() ? filter.texts[0] : text;
    case FilterKind::Digits: return withDigits(std::move(text), filter.number);
  }
  return text;
}

}  // namespace octaphon
