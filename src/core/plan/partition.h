// Whether the files of a span can be expected to add up: only a partition does, every audible track (and
// return) once, none together with what it is in.
#pragma once

#include "plan/sheet.h"
#include "recipe/recipe.h"

namespace octaphon {

struct SumCheck {
  bool isJudged = false;
  std::string text;                  ///< why not; for people
  std::vector<std::size_t> sources;  ///< indices in PlannedBrief::sources that are added up
};

/// `present`: the sources that have a row in the span. The recipe is the span's, or one that holds more.
SumCheck sumCheckOf(SpanRecipe& recipe, const PlannedBrief& brief, const PlannedSpan& span,
                    const std::vector<std::size_t>& present);

}  // namespace octaphon
