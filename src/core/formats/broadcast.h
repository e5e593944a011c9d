// The broadcast extension of WAV files (EBU Tech 3285 v2), which FLAC files carry too.
#pragma once

#include <string>

#include "formats/file_data.h"

namespace octaphon {

/// Content of a `bext` chunk, 602 bytes: texts in ASCII as the standard has it, without loudness (0x7FFF).
/// The day is the edition's, which has no time: 00:00:00. Where no reference is said, it is the row's mark.
std::string broadcastData(const FileData& data);

}  // namespace octaphon
