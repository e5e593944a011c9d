// Whether the join of a lap clicks: the error of predicting the first frames behind it from those before, and
// the other way round (linear prediction; J. Makhoul, "Linear Prediction: A Tutorial Review", 1975), against
// the errors elsewhere in the lap where onsets are as strong.
#pragma once

#include "loop/onsets.h"

namespace octaphon {

/// In dB over what 9 in 10 of up to 96 places in the lap have: 0 or less is no click. The channel counts
/// that clicks most. What a sudden beginning explains by its own loudness counts for none.
double joinClick(const Lap& lap, const Onsets& onsets);

}  // namespace octaphon
