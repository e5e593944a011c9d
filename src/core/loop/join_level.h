// How the loudness and the colour of a lap change across its join, against what is normal for it.
#pragma once

#include <optional>

#include "loop/onsets.h"

namespace octaphon {

/// In dB. What counts as normal: nine in ten of the places whose onset is within 3 dB of the join's, or the
/// nearest 24; where it is known how the sound would have gone on, a fixed little.
struct JoinLevel {
  double levelDb = 0;       ///< louder (over 0) or softer behind the join than usual there
  double levelRangeDb = 0;  ///< that much to either side is normal
  double stepDb = 0;  ///< by how much all of one side is louder than nearly all of the other; 0: not at all
  double stepRangeDb = 0;
  double spectrumDb = 0;  ///< by how much bands differ otherwise, rms
  double spectrumRangeDb = 0;
};

/// Nothing of laps under 50 ms.
std::optional<JoinLevel> joinLevel(const Onsets& onsets);

/// Against the sound that would have followed the join, as long as it lasts.
JoinLevel levelAgainst(const Lap& lap, const Lap& goesOn);

}  // namespace octaphon
