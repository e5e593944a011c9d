#include "base/pattern.h"

#include <unicode/regex.h>

#include "base/icu_text.h"

// ICU's macros narrow integers.
#pragma GCC diagnostic ignored "-Wconversion"

namespace octaphon {
namespace {

constexpr int32_t kTimeLimit = 200;       // steps of ICU's own, a millisecond or so each
constexpr int32_t kStackLimit = 4 << 20;  // bytes

}  // namespace

struct Pattern::State {
  std::unique_ptr<icu::RegexPattern> pattern;
  bool isLiteral = false;
};

Pattern::Pattern(std::unique_ptr<State> state) : state_(std::move(state)) {}
Pattern::Pattern(Pattern&&) noexcept = default;
Pattern& Pattern::operator=(Pattern&&) noexcept = default;
Pattern::~Pattern() = default;

namespace {

uint32_t flagsFor(bool ignoreCase) { return ignoreCase ? uint32_t{UREGEX_CASE_INSENSITIVE} : 0; }

std::unique_ptr<icu::RegexPattern> compiled(std::string_view text, uint32_t flags, UParseError& where,
                                            UErrorCode& status) {
  return std::unique_ptr<icu::RegexPattern>(icu::RegexPattern::compile(icuText(text), flags, where, status));
}

}  // namespace

Result<Pattern> Pattern::compile(std::string_view pattern, bool ignoreCase) {
  UErrorCode status = U_ZERO_ERROR;
  UParseError where{};
  auto state = std::make_unique<State>();
  state->pattern = compiled(pattern, flagsFor(ignoreCase), where, status);
  if (U_FAILURE(status) || !state->pattern)
    return fail(ErrorCode::Syntax, "pattern, character " + std::to_string(std::max(where.offset, 1)),
                "the pattern cannot be understood", "Put a \\ before signs that stand for themselves");
  return Pattern(std::move(state));
}

Result<Pattern> Pattern::literal(std::string_view text, bool ignoreCase) {
  UErrorCode status = U_ZERO_ERROR;
  UParseError where{};
  auto state = std::make_unique<State>();
  state->isLiteral = true;
  state->pattern = compiled(text, flagsFor(ignoreCase) | UREGEX_LITERAL, where, status);
  if (U_FAILURE(status) || !state->pattern) return fail(ErrorCode::Syntax, "text to find");
  return Pattern(std::move(state));
}

Result<std::string> Pattern::replaceAll(std::string_view text, std::string_view replacement) const {
  UErrorCode status = U_ZERO_ERROR;
  const icu::UnicodeString input = icuText(text);
  const std::unique_ptr<icu::RegexMatcher> matcher(state_->pattern->matcher(input, status));
  if (U_FAILURE(status)) return fail(ErrorCode::TooLarge, "pattern");
  matcher->setTimeLimit(kTimeLimit, status);
  matcher->setStackLimit(kStackLimit, status);
  icu::UnicodeString with = icuText(replacement);
  if (state_->isLiteral) {
    with.findAndReplace(icu::UnicodeString("\\"), icu::UnicodeString("\\\\"));
    with.findAndReplace(icu::UnicodeString("$"), icu::UnicodeString("\\$"));
  }
  // replaceAll() of ICU takes a matcher that gave up for one that found nothing.
  icu::UnicodeString result;
  while (matcher->find(status) != 0 && U_SUCCESS(status)) matcher->appendReplacement(result, with, status);
  matcher->appendTail(result);
  if (status == U_INDEX_OUTOFBOUNDS_ERROR || status == U_REGEX_INVALID_CAPTURE_GROUP_NAME)
    return fail(ErrorCode::Syntax, "replacement", "the pattern has no group of this number",
                "Put brackets around a part of the pattern, or write \\$ for a dollar sign");
  if (U_FAILURE(status))
    return fail(ErrorCode::TooLarge, "pattern",
                "it takes too long on '" + std::string(text.substr(0, 60)) + "'", "Make the pattern simpler");
  std::string utf8;
  result.toUTF8String(utf8);
  return utf8;
}

bool Pattern::isFoundIn(std::string_view text) const {
  UErrorCode status = U_ZERO_ERROR;
  const icu::UnicodeString input = icuText(text);
  const std::unique_ptr<icu::RegexMatcher> matcher(state_->pattern->matcher(input, status));
  if (U_FAILURE(status)) return false;
  matcher->setTimeLimit(kTimeLimit, status);
  return matcher->find(status) != 0 && U_SUCCESS(status);
}

}  // namespace octaphon
