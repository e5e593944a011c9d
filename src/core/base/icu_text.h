// Text as ICU takes it.
#pragma once

#include <unicode/unistr.h>
#include <string_view>

namespace octaphon {

inline icu::UnicodeString icuText(std::string_view utf8) {
  return icu::UnicodeString::fromUTF8(icu::StringPiece(utf8.data(), static_cast<int32_t>(utf8.size())));
}

}  // namespace octaphon
