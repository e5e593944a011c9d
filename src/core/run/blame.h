// Which rows a plug-in that failed is to blame for.
#pragma once

#include "run/pass.h"

namespace octaphon {

/// Takes rows out of the result that failed because of a plug-in, or its process, which they do not hear:
/// they can be made without the rows that do. Those get its name into their errors. Nothing where no row
/// hears it.
std::vector<PassRow> takeRowsNotToBlame(SpanRecipe& recipe, const Sheet& sheet, const PlannedPass& pass,
                                        PassResult& result);

}  // namespace octaphon
