// Short forms of words, as a session keeps them.
#pragma once

#include <map>
#include <string>
#include <string_view>
#include <unordered_map>

namespace octaphon {

/// Long form to short form: `Ambience` to `Amb`, `Gear Wheel` to `GW`.
using AbbreviationTable = std::map<std::string, std::string>;

class Abbreviations {
 public:
  Abbreviations() = default;
  /// Long forms of several words count too. Of two that differ in letter case alone the first counts.
  explicit Abbreviations(const AbbreviationTable& table);

  /// Whole words (and runs of words, the longest first) replaced, letter case ignored; the rest as it is.
  std::string applied(std::string_view text) const;

 private:
  std::unordered_map<std::string, std::string> shortOf_;  // by folded words, a space between them
  std::size_t mostWords_ = 0;
};

}  // namespace octaphon
