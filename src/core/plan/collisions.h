// Rows whose files would be in each other's way.
#pragma once

#include "plan/sheet.h"

namespace octaphon {

/// Adds a fault to all rows of the sheet that would lie at the same path, or whose file has the name of
/// another's folder; letter case, composition and characters that nobody sees ignored.
void findCollisions(Sheet& sheet);

}  // namespace octaphon
