#include "naming/letter_case.h"

#include "base/unicode.h"

namespace octaphon {
namespace {

std::string joinedSmall(std::string_view text, char joint) {
  std::string result;
  for (const std::string& word : wordsOf(text)) {
    if (!result.empty()) result += joint;
    result += lowerCase(word);
  }
  return result;
}

std::string joinedCapitalised(std::string_view text, bool firstSmall) {
  std::string result;
  for (const std::string& word : wordsOf(text))
    result += firstSmall && result.empty() ? lowerCase(word) : capitalised(word);
  return result;
}

}  // namespace

std::string withCase(std::string_view text, LetterCase letterCase) {
  switch (letterCase) {
    case LetterCase::AsIs: return std::string(text);
    case LetterCase::Lower: return lowerCase(text);
    case LetterCase::Upper: return upperCase(text);
    case LetterCase::Snake: return joinedSmall(text, '_');
    case LetterCase::Kebab: return joinedSmall(text, '-');
    case LetterCase::Camel: return joinedCapitalised(text, true);
    case LetterCase::Pascal: return joinedCapitalised(text, false);
  }
  return std::string(text);
}

}  // namespace octaphon
