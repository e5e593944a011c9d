// Which spans a brief prints, and which sources each of them asks for.
#pragma once

#include "plan/sheet.h"
#include "recipe/heard_clips.h"

namespace octaphon {

/// Chooses the spans of planned.brief in their order, whose sources are chosen already; with remarks.
void chooseSpans(PlannedBrief& planned, const ClipFinder& finder);

}  // namespace octaphon
