#include "base/unicode.h"

#include <algorithm>
#include <cstdio>

#include <memory>

#include <unicode/coll.h>
#include <unicode/locid.h>
#include <unicode/normalizer2.h>
#include <unicode/uchar.h>
#include <unicode/unistr.h>
#include <unicode/utf8.h>

#include "base/ascii.h"
#include "base/icu_text.h"
#include "base/letters.h"

// ICU's macros narrow integers.
#pragma GCC diagnostic ignored "-Wconversion"

namespace octaphon {
namespace {

char asciiLower(char c) { return c >= 'A' && c <= 'Z' ? static_cast<char>(c + 32) : c; }

std::string mapAscii(std::string_view text, char (*map)(char)) {
  std::string result(text);
  std::transform(result.begin(), result.end(), result.begin(), map);
  return result;
}

std::string narrow(const icu::UnicodeString& text) {
  std::string result;
  text.toUTF8String(result);
  return result;
}

const icu::Normalizer2* nfc() {
  UErrorCode status = U_ZERO_ERROR;
  static const icu::Normalizer2* normalizer = icu::Normalizer2::getNFCInstance(status);
  return normalizer;
}

icu::UnicodeString normalized(const icu::UnicodeString& text) {
  UErrorCode status = U_ZERO_ERROR;
  icu::UnicodeString result = nfc()->normalize(text, status);
  return U_SUCCESS(status) ? result : text;
}

/// What moves or hides other text; also what is no character (below 0).
bool isControl(UChar32 c) {
  if (c < 0) return true;
  const auto kind = u_charType(c);
  return kind == U_CONTROL_CHAR || kind == U_LINE_SEPARATOR || kind == U_PARAGRAPH_SEPARATOR ||
         u_hasBinaryProperty(c, UCHAR_BIDI_CONTROL) != 0;
}

/// Collators are not cheap to make and not shared between threads.
const icu::Collator* naturalCollator() {
  thread_local const std::unique_ptr<icu::Collator> collator = [] {
    UErrorCode status = U_ZERO_ERROR;
    std::unique_ptr<icu::Collator> made(icu::Collator::createInstance(icu::Locale::getRoot(), status));
    if (made) made->setAttribute(UCOL_NUMERIC_COLLATION, UCOL_ON, status);
    return made;
  }();  // NOLINT(clang-analyzer-cplusplus.NewDelete): a value that is moved
  return collator.get();
}

}  // namespace

int naturalCompare(std::string_view a, std::string_view b) {
  UErrorCode status = U_ZERO_ERROR;
  if (const icu::Collator* collator = naturalCollator()) {
    const UCollationResult order =
        collator->compareUTF8(icu::StringPiece(a.data(), static_cast<int32_t>(a.size())),
                              icu::StringPiece(b.data(), static_cast<int32_t>(b.size())), status);
    if (U_SUCCESS(status) && order != UCOL_EQUAL) return order;
  }
  return a.compare(b);
}

std::string decodedText(std::string_view bytes) {
  if (bytes.starts_with("\xef\xbb\xbf")) bytes.remove_prefix(3);
  const bool little = bytes.starts_with("\xff\xfe");
  if (!little && !bytes.starts_with("\xfe\xff") && isValidUtf8(bytes)) return std::string(bytes);
  const char* encoding = little ? "UTF-16LE" : bytes.starts_with("\xfe\xff") ? "UTF-16BE" : "windows-1252";
  if (encoding[0] == 'U') bytes.remove_prefix(2);
  return narrow(icu::UnicodeString(bytes.data(), static_cast<int32_t>(bytes.size()), encoding));
}

bool isValidUtf8(std::string_view text) {
  int32_t i = 0;
  const auto length = static_cast<int32_t>(text.size());
  while (i < length) {
    UChar32 c;
    U8_NEXT(text.data(), i, length, c);
    if (c < 0) return false;
  }
  return true;
}

std::string composed(std::string_view text) {
  if (isAscii(text) || !isValidUtf8(text)) return std::string(text);
  return narrow(normalized(icuText(text)));
}

std::string foldedName(std::string_view text) {
  if (isAscii(text)) return mapAscii(text, asciiLower);
  return narrow(normalized(normalized(icuText(text)).foldCase()));
}

std::string comparableName(std::string_view text) {
  if (isAscii(text)) return mapAscii(text, asciiLower);
  icu::UnicodeString seen;
  const icu::UnicodeString all = icuText(text);
  for (int32_t i = 0; i < all.length(); i = all.moveIndex32(i, 1)) {
    const UChar32 c = all.char32At(i);
    if (u_hasBinaryProperty(c, UCHAR_DEFAULT_IGNORABLE_CODE_POINT) == 0) seen.append(c);
  }
  return narrow(normalized(normalized(seen).foldCase()));
}

std::string lowerCase(std::string_view text) {
  if (isAscii(text)) return mapAscii(text, asciiLower);
  return narrow(icuText(text).toLower(icu::Locale::getRoot()));
}

std::string upperCase(std::string_view text) { return narrow(icuText(text).toUpper(icu::Locale::getRoot())); }

std::string capitalised(std::string_view text) {
  icu::UnicodeString all = icuText(text);
  const int32_t first = all.moveIndex32(0, 1);
  icu::UnicodeString head(all, 0, first);
  icu::UnicodeString rest(all, first);
  return narrow(head.toUpper(icu::Locale::getRoot()) + rest.toLower(icu::Locale::getRoot()));
}

std::vector<std::string> wordsOf(std::string_view text) {
  std::vector<std::string> words;
  for (const TextRange& range : wordRanges(text)) {
    std::string& word = words.emplace_back(range.of(text));
    std::erase(word, '\'');
    for (std::size_t at; (at = word.find("\u2019")) != std::string::npos;) word.erase(at, 3);
  }
  return words;
}

std::string withoutControls(std::string_view text, std::string_view instead) {
  if (isAscii(text) && std::none_of(text.begin(), text.end(), [](char c) { return c < 0x20 || c == 0x7F; }))
    return std::string(text);
  std::string result;
  const auto length = static_cast<int32_t>(text.size());
  for (int32_t i = 0; i < length;) {
    const int32_t begin = i;
    UChar32 c;
    U8_NEXT(text.data(), i, length, c);
    const auto own = text.substr(static_cast<std::size_t>(begin), static_cast<std::size_t>(i - begin));
    result += isControl(c) ? instead : own;
  }
  return result;
}

std::string printable(std::string_view text, std::size_t longest) {
  std::string result = withoutControls(text, " ");
  if (result.size() <= longest) return result;
  std::size_t cut = longest;
  while (cut > 0 && (static_cast<unsigned char>(result[cut]) & 0xC0) == 0x80) --cut;
  return result.substr(0, cut) + "…";
}

std::string counted(std::size_t count, std::string_view singular, std::string_view plural) {
  const std::string word = count == 1       ? std::string(singular)
                           : plural.empty() ? std::string(singular) + "s"
                                            : std::string(plural);
  return std::to_string(count) + " " + word;
}

std::string plainNumber(double value) {
  char text[400];  // the largest double has 309 digits
  std::snprintf(text, sizeof text, "%.3f", value);
  std::string number = text;
  while (number.back() == '0') number.pop_back();
  if (number.back() == '.') number.pop_back();
  return number;
}

std::string listed(const std::vector<std::string>& parts) {
  std::string text;
  for (std::size_t i = 0; i < parts.size(); ++i)
    text += (i == 0 ? "" : i + 1 == parts.size() ? " and " : ", ") + parts[i];
  return text;
}

}  // namespace octaphon
