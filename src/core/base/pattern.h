// Regular expressions as ICU has them, for find and replace: hostile ones end after a limit of steps.
#pragma once

#include <memory>
#include <string>
#include <string_view>

#include "base/result.h"

namespace octaphon {

/// A compiled pattern. Syntax: ICU regular expressions; `$1` in a replacement is the first group. Movable;
/// one thread at a time.
class Pattern {
 public:
  /// Syntax with the place where the pattern cannot be understood.
  static Result<Pattern> compile(std::string_view pattern, bool ignoreCase);
  /// The same for text that stands for itself.
  static Result<Pattern> literal(std::string_view text, bool ignoreCase);
  Pattern(Pattern&&) noexcept;
  Pattern& operator=(Pattern&&) noexcept;
  ~Pattern();

  /// Syntax where the replacement asks for a group that is not there; TooLarge where the pattern needs too
  /// long.
  Result<std::string> replaceAll(std::string_view text, std::string_view replacement) const;
  bool isFoundIn(std::string_view text) const;

 private:
  struct State;
  explicit Pattern(std::unique_ptr<State> state);
  std::unique_ptr<State> state_;
};

}  // namespace octaphon
