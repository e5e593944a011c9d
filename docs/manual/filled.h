// Places in documents that are made from the program.
#pragma once

#include <string>

namespace octaphon::manual {

/// The document with `text` between `<!-- MARK: made from the program -->` and the next `<!-- end -->`; empty
/// where it has no such place.
std::string filled(const std::string& document, const std::string& mark, const std::string& text);

/// With every place that is there filled: `usage`, `remarks`, `findings`.
std::string filledByProgram(std::string document);

}  // namespace octaphon::manual
