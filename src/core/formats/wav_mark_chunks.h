// Loop points and labels for a WAV file: what wav_marks reads.
#pragma once

#include "formats/wav_marks.h"

namespace octaphon {

/// `smpl` (where there is a loop), `cue ` and `LIST adtl`, to stand behind the samples; empty where there is
/// nothing to say. The loop's end is written inclusive. Labels are UTF-8. `rate` in Hz; frames under 2³².
std::string wavMarkChunks(const std::vector<WavMark>& marks, const std::optional<WavLoop>& loop, int rate);

}  // namespace octaphon
