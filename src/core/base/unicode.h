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

/// The same without what nobody sees (default ignorable code points: joiners, variation selectors): names
/// that look alike for that alone are taken for one.
std::string comparableName(std::string_view text);

std::string lowerCase(std::string_view text);
std::string upperCase(std::string_view text);
/// First letter large, the others small.
std::string capitalised(std::string_view text);

/// The order people expect of names: numbers count by their value (`Part 2` before `Part 10`), letter case
/// and accents only where all else is equal. ICU's root collation (Unicode UTS #10, CLDR), numeric; ties by
/// bytes. Below 0, 0 or over 0, as strcmp.
int naturalCompare(std::string_view a, std::string_view b);
inline bool naturalLess(std::string_view a, std::string_view b) { return naturalCompare(a, b) < 0; }

/// UTF-8 of a text file's bytes: UTF-8 or UTF-16 with a byte order mark, UTF-8 without, else Windows-1252.
std::string decodedText(std::string_view bytes);

/// Runs of letters and digits. A small letter before a large one ends a word; apostrophes end none.
std::vector<std::string> wordsOf(std::string_view text);

/// The same with `instead` for each control character (C0 and C1), separator of lines or paragraphs, control
/// of the writing direction, and byte that is not UTF-8.
std::string withoutControls(std::string_view text, std::string_view instead);

/// For one-line messages about hostile names: without such characters, at most `longest` bytes.
std::string printable(std::string_view text, std::size_t longest = 120);

/// `1 file`, `3 files`
std::string counted(std::size_t count, std::string_view singular, std::string_view plural = {});

/// At most three decimals, none where they are zeros: `0.25`, `3`.
std::string plainNumber(double value);

/// `a`, `a and b`, `a, b and c`
std::string listed(const std::vector<std::string>& parts);

}  // namespace octaphon
