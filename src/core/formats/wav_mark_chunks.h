// Loop points and labels in RIFF chunks: what wav_marks reads.
#pragma once

#include <string>
#include <vector>

#include "formats/file_data.h"

namespace octaphon {

/// `smpl` (where there is a loop), `cue ` and `LIST adtl`, each a whole chunk; none where there is nothing to
/// say. The loop's end is written inclusive. Labels are UTF-8. `rate` in Hz; places from 2³² frames on do not
/// fit, and are left out.
std::vector<std::string> wavMarkChunks(const std::vector<FileMark>& marks,
                                       const std::optional<FileLoop>& loop, int rate);

/// The largest frame that they can name.
inline constexpr Frame kLastRiffFrame = 0xFFFFFFFF;

}  // namespace octaphon
