#include "base/letters.h"

#include <algorithm>
#include <memory>

#include <unicode/brkiter.h>
#include <unicode/locid.h>
#include <unicode/translit.h>
#include <unicode/uchar.h>
#include <unicode/utext.h>
#include <unicode/utf8.h>

#include "base/ascii.h"
#include "base/unicode.h"

// ICU's macros narrow integers.
#pragma GCC diagnostic ignored "-Wconversion"

namespace octaphon {
namespace {

bool belongsToWord(UChar32 c) { return u_isalnum(c) || (U_GET_GC_MASK(c) & U_GC_M_MASK) != 0; }

bool isApostrophe(UChar32 c) { return c == '\'' || c == 0x2019; }

/// Break iterators are not cheap to make and not shared between threads.
icu::BreakIterator* characterBreaks() {
  thread_local const std::unique_ptr<icu::BreakIterator> breaks = [] {
    UErrorCode status = U_ZERO_ERROR;
    return std::unique_ptr<icu::BreakIterator>(
        icu::BreakIterator::createCharacterInstance(icu::Locale::getRoot(), status));
  }();
  return breaks.get();
}

/// The same of transforms.
const icu::Transliterator* transformOf(Spelling spelling) {
  const auto make = [](const char* id) {
    UErrorCode status = U_ZERO_ERROR;
    return std::unique_ptr<icu::Transliterator>(
        icu::Transliterator::createInstance(id, UTRANS_FORWARD, status));
  };
  thread_local const std::unique_ptr<icu::Transliterator> plain = make("Latin-ASCII");
  thread_local const std::unique_ptr<icu::Transliterator> german = make("de-ASCII");
  return (spelling == Spelling::German ? german : plain).get();
}

/// Two letters where one was: both large where the next letter is large too, or none follows a large one.
void spellNordic(icu::UnicodeString& text) {
  static constexpr struct {
    char16_t letter;
    const char16_t *first, *second;
  } kSpellings[]{{u'å', u"a", u"a"}, {u'ä', u"a", u"e"}, {u'æ', u"a", u"e"}, {u'ö', u"o", u"e"},
                 {u'ø', u"o", u"e"}, {u'Å', u"A", u"A"}, {u'Ä', u"A", u"E"}, {u'Æ', u"A", u"E"},
                 {u'Ö', u"O", u"E"}, {u'Ø', u"O", u"E"}};
  for (int32_t i = 0; i < text.length(); ++i)
    for (const auto& spelling : kSpellings) {
      if (text[i] != spelling.letter) continue;
      const bool isAmongSmall = i + 1 < text.length() && u_islower(text[i + 1]);
      icu::UnicodeString second(spelling.second);
      if (isAmongSmall) second.toLower();
      text.replace(i, 1, icu::UnicodeString(spelling.first) + second);
      ++i;
      break;
    }
}

std::string titleOfAscii(std::string_view text) {
  std::string result(text);
  bool inWord = false;
  for (std::size_t i = 0; i < result.size(); ++i) {
    char& c = result[i];
    const bool isLetter = (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z');
    if (isLetter) c = static_cast<char>(inWord ? c | 0x20 : c & ~0x20);
    inWord = isLetter || (c >= '0' && c <= '9') || (inWord && c == '\'');
  }
  return result;
}

}  // namespace

std::vector<TextRange> wordRanges(std::string_view text) {
  std::vector<TextRange> words;
  bool isOpen = false, wasSmall = false;
  std::size_t lastEnd = 0;  // of what belongs to the open word
  const auto close = [&] {
    if (isOpen) words.back().end = lastEnd;
    isOpen = false;
  };
  const auto length = static_cast<int32_t>(text.size());
  for (int32_t i = 0; i < length;) {
    const auto begin = static_cast<std::size_t>(i);
    UChar32 c;
    U8_NEXT_OR_FFFD(text.data(), i, length, c);
    if (isApostrophe(c)) continue;
    if (!belongsToWord(c)) {
      close();
      wasSmall = false;
      continue;
    }
    if (wasSmall && u_isupper(c)) close();
    if (!isOpen) words.push_back({begin, begin});
    isOpen = true;
    lastEnd = static_cast<std::size_t>(i);
    wasSmall = u_islower(c);
  }
  close();
  return words;
}

std::vector<std::string_view> charactersOf(std::string_view text) {
  std::vector<std::string_view> characters;
  if (isAscii(text)) {
    for (std::size_t i = 0; i < text.size(); ++i) characters.push_back(text.substr(i, 1));
    return characters;
  }
  UErrorCode status = U_ZERO_ERROR;
  UText* opened = utext_openUTF8(nullptr, text.data(), static_cast<int64_t>(text.size()), &status);
  icu::BreakIterator* breaks = characterBreaks();
  if (U_SUCCESS(status) && breaks != nullptr) {
    breaks->setText(opened, status);
    std::size_t begin = 0;
    for (int32_t at = breaks->next(); at != icu::BreakIterator::DONE; at = breaks->next()) {
      characters.push_back(text.substr(begin, static_cast<std::size_t>(at) - begin));
      begin = static_cast<std::size_t>(at);
    }
  }
  utext_close(opened);
  return characters;
}

std::string titleCase(std::string_view text) {
  if (isAscii(text)) return titleOfAscii(text);
  icu::UnicodeString wide =
      icu::UnicodeString::fromUTF8(icu::StringPiece(text.data(), static_cast<int32_t>(text.size())));
  std::string result;
  wide.toTitle(nullptr, icu::Locale::getRoot()).toUTF8String(result);
  return result;
}

std::string asciiText(std::string_view text, Spelling spelling, bool& isLost) {
  if (isAscii(text)) return std::string(text);
  const std::string whole = composed(text);
  icu::UnicodeString wide =
      icu::UnicodeString::fromUTF8(icu::StringPiece(whole.data(), static_cast<int32_t>(whole.size())));
  if (spelling == Spelling::Nordic) spellNordic(wide);
  if (const icu::Transliterator* transform = transformOf(spelling)) transform->transliterate(wide);
  std::string spelt;
  wide.toUTF8String(spelt);
  std::string result;
  for (const std::string_view character : charactersOf(spelt)) {
    if (!isAscii(character)) isLost = true;
    result += isAscii(character) ? character : std::string_view("_");
  }
  return result;
}

}  // namespace octaphon
