// Bytes of text that need no tables.
#pragma once

#include <algorithm>
#include <string_view>

namespace octaphon {

constexpr bool isDigit(char c) { return c >= '0' && c <= '9'; }

inline bool isAscii(std::string_view text) {
  return std::none_of(text.begin(), text.end(), [](char c) { return static_cast<unsigned char>(c) >= 0x80; });
}

}  // namespace octaphon
