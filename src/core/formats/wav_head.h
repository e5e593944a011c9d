// What stands before the samples of a WAV file: RIFF/WAVE (IBM & Microsoft 1991, 1994), with the place in the
// session as a broadcast extension (EBU Tech 3285 v2).
#pragma once

#include <cstdint>
#include <string>

#include "base/frames.h"
#include "formats/encoding.h"

namespace octaphon {

struct WavHead {
  Encoding encoding = Encoding::Pcm24;
  int channels = 2;               ///< 1, 2, 4, 6 or 8; more than two say where each is heard
  int rate = 48000;               ///< Hz
  Frame timeReference = 0;        ///< frames at `rate` from midnight to the first sample
  std::uint64_t behindBytes = 0;  ///< of chunks behind the samples, whole
  std::uint64_t dataBytes = 0;    ///< of the samples, without padding

  /// All bytes before the samples: `bext`, `fmt `, for floating point `fact`, and the head of `data`. Of one
  /// length whatever the time reference and the number of samples. Holds no clock.
  std::string bytes() const;
};

}  // namespace octaphon
