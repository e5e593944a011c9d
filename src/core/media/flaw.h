// What is wrong with a file of sound that opens well. Looks through all of it, so it is done once for each
// content.
#pragma once

#include <string>

#include "base/result.h"

namespace octaphon {

enum class MediumFlaw {
  None,
  CutOff,         ///< its end is missing
  Damaged,        ///< some of it cannot be decoded
  WrongChecksum,  ///< FLAC: the sound is not the one whose checksum it carries
  Chained,        ///< Ogg: several recordings in a row, of which only the first is read
};

inline constexpr int kMediumFlaws = static_cast<int>(MediumFlaw::Chained) + 1;

/// `it is cut off`, for people; empty for None.
std::string flawText(MediumFlaw flaw);
/// Whether the sound is not all there: such a medium is not played.
constexpr bool isLoss(MediumFlaw flaw) { return flaw == MediumFlaw::CutOff || flaw == MediumFlaw::Damaged; }

/// Ogg (RFC 3533): every page's checksum, the end of the stream, further streams. FLAC (RFC 9639): decoded,
/// frame checksums and the MD5 of the sound. MP3: the length that its first frame tells, where it does. Of
/// other files nothing. The file's position is not kept. Thread-safe; fails where the file cannot be read.
Result<MediumFlaw> findFlaw(int fd, const std::string& place);

}  // namespace octaphon
