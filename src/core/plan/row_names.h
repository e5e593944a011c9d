// File names of the rows of one brief: numbers, template, letter case, endings, collisions.
#pragma once

#include "plan/sheet.h"

namespace octaphon {

/// Names all rows of a brief; adds faults to rows that get no allowed name.
void nameRows(Sheet& sheet, std::size_t brief);

/// Adds a fault to all rows of the sheet that would lie at the same path, letter case ignored.
void findCollisions(Sheet& sheet);

}  // namespace octaphon
