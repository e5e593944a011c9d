#include "base/name_pattern.h"

#include "base/unicode.h"

namespace octaphon {
namespace {

/// Bytes of the character that begins at `at`.
std::size_t stepAt(std::string_view text, std::size_t at) {
  std::size_t end = at + 1;
  while (end < text.size() && (static_cast<unsigned char>(text[end]) & 0xC0) == 0x80) ++end;
  return end - at;
}

/// The last star takes one more character whenever what follows it does not fit.
bool isLike(std::string_view text, std::string_view pattern) {
  constexpr std::size_t kNone = static_cast<std::size_t>(-1);
  std::size_t t = 0, p = 0, star = kNone, from = 0;
  while (t < text.size()) {
    if (p < pattern.size() && pattern[p] == '*') {
      star = p++;
      from = t;
    } else if (p < pattern.size() && pattern[p] == '?') {
      t += stepAt(text, t);
      ++p;
    } else if (p < pattern.size() && pattern[p] == text[t]) {
      ++t;
      ++p;
    } else if (star != kNone) {
      from += stepAt(text, from);
      t = from;
      p = star + 1;
    } else {
      return false;
    }
  }
  while (p < pattern.size() && pattern[p] == '*') ++p;
  return p == pattern.size();
}

}  // namespace

NamePattern::NamePattern(std::string_view pattern)
    : pattern_(foldedName(pattern)), isOfPath_(pattern_.find('/') != std::string::npos) {}

bool NamePattern::fits(std::string_view path) const {
  const std::size_t slash = path.rfind('/');
  const bool isWhole = isOfPath_ || slash == std::string_view::npos;
  return isLike(foldedName(isWhole ? path : path.substr(slash + 1)), pattern_);
}

}  // namespace octaphon
