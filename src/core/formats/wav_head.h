// What stands before the samples of a WAV file: RIFF/WAVE (IBM & Microsoft 1991, 1994), or RF64 (EBU Tech
// 3306), with a broadcast extension (EBU Tech 3285 v2).
#pragma once

#include <cstdint>
#include <string>

#include "formats/encoding.h"
#include "formats/file_data.h"

namespace octaphon {

struct WavHead {
  FileForm form;                  ///< with more than two channels they say where each is heard
  std::uint64_t behindBytes = 0;  ///< of chunks behind the samples, whole
  std::uint64_t dataBytes = 0;    ///< of the samples, without padding

  /// All bytes before the samples: `ds64` for RF64, `bext`, `fmt `, for floating point `fact`, and the head
  /// of `data`. Of one length whatever the data and the number of samples.
  std::string bytes(const FileData& data) const;
};

}  // namespace octaphon
