// The files that a brief makes of each sound.
#pragma once

#include <vector>

#include "plan/sheet.h"

namespace octaphon {

/// Sets the brief's outputs, and how keys of rows tell them apart.
void planOutputs(PlannedBrief& planned);

/// Rates of all its files, each once, in Hz; that of its first output first.
std::vector<int> ratesOf(const PlannedBrief& planned, int sessionRate);

}  // namespace octaphon
