// What there is to say of how loud files are.
#pragma once

#include <vector>

#include "plan/sheet.h"

namespace octaphon {

/// Of what was found for the set of a row: nothing to judge it by, or a ceiling that keeps it softer than it
/// was to be.
std::vector<Remark> gainRemarks(const Sheet& sheet, const Row& row, const FoundGain& found);

/// Of the file as it was judged: what a limiter left, and how far it is over what it was to stay under.
std::vector<Remark> levelRemarks(const Sheet& sheet, const Row& row, const Levels& levels);

/// Of `files` that stayed, `first` among them, while their set has another gain now.
Remark movedGainRemark(const Row& first, std::size_t files, double gainDb);

}  // namespace octaphon
