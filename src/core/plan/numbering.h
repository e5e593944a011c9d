// The numbers that names of a brief's files have: those that were delivered stick, others are the next free
// ones.
#pragma once

#include "plan/equal_names.h"
#include "plan/sheet.h"

namespace octaphon {

/// Gives every sound of a brief its numbers, but for those among equal names. What is held back gets none
/// before what is not.
void numberSounds(const Sheet& sheet, PlannedBrief& brief);

/// Numbers of the brief's rows among equal names; all files of one sound have the same. `names`: those of the
/// first file of each sound, without that number.
NameNumbers numberNames(const Sheet& sheet, const PlannedBrief& brief, const EqualNames& names);

/// What a run has to fix: what is fixed, and numbers that the template asks for of all that is not held back.
StickyNumbers stickyNumbers(const Sheet& sheet, const PlannedBrief& brief);

}  // namespace octaphon
