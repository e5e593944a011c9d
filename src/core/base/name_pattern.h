// Names by pattern: `*` is any text, `?` any character, letter case ignored.
#pragma once

#include <string>
#include <string_view>

namespace octaphon {

class NamePattern {
 public:
  explicit NamePattern(std::string_view pattern);
  /// Whether all of a name is as the pattern says. A pattern with a slash is asked about the whole path,
  /// others about its last part.
  bool fits(std::string_view path) const;

 private:
  std::string pattern_;  // folded
  bool isOfPath_;
};

}  // namespace octaphon
