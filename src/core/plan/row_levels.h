// How loud the files of a sheet are, and which of them are out of line with their variations.
#pragma once

#include "plan/sheet.h"

namespace octaphon {

struct RowLevels {
  std::optional<double> gainDb;  ///< nothing: not known yet
  Levels levels;                 ///< of the file, as far as they are known
};

/// Of the file that is there, where it is as planned; else as it will be, as far as its sound was measured.
RowLevels levelsOf(const Sheet& sheet, const Row& row);

/// The gain to listen to a row with, in dB: what its level has, or, where a limiter makes it found by turns,
/// what it will have about; nothing while that is not known.
std::optional<double> heardGainOf(const Sheet& sheet, const Row& row);

/// What variations may differ by, in LU or dB (common practice, no source).
inline constexpr float kOutOfLine = 3;

/// Sets Row::apart of rows whose states are known. Variations are spans of a brief whose names differ in
/// their number alone; files of one source and form are compared by loudness, or by peak where that cannot be
/// judged.
void findApart(Sheet& sheet);

}  // namespace octaphon
