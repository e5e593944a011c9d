// Rows that are taken out of a brief by hand.
#pragma once

#include <string>
#include <vector>

#include "brief/brief.h"

namespace octaphon {

/// Takes rows out of a brief, or in again. Whole keys, as Sheet::keyOf() gives them; those of other briefs do
/// not count.
void setHeldBack(Brief& brief, const std::vector<std::string>& keys, bool on);

}  // namespace octaphon
