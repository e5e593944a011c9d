// Text is UTF-8 everywhere; ICU knows what a letter is.
#pragma once

#include <string>
#include <string_view>
#include <vector>

namespace octaphon {

bool isValidUtf8(std::string_view text);

/// Composed form (NFC, Unicode UAX #15). Text that is not valid is given back as it is.
std::string composed(std::string_view text);

/// What two names have in common when a file system ignores case: NFC of the case-folded NFC.
std::string foldedName(std::string_view text);

std::string lowerCase(std::string_view text);
std::string upperCase(std::string_view text);
/// First letter large, the others small.
std::string capitalised(std::string_view text);

/// Runs of letters and digits. A small letter before a large one ends a word; apostrophes end none.
std::vector<std::string> wordsOf(std::string_view text);

/// The same without control characters; for one-line messages about hostile names, at most `longest` bytes.
std::string printable(std::string_view text, std::size_t longest = 120);

/// `1 file`, `3 files`
std::string counted(std::size_t count, std::string_view singular, std::string_view plural = {});

}  // namespace octaphon
