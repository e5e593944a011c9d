// AIFF (Apple 1989), and AIFF-C (Apple 1991) for floating point: what stands before the samples and behind
// them. Numbers are big-endian.
#pragma once

#include <cstdint>
#include <string>

#include "formats/encoding.h"
#include "formats/file_data.h"

namespace octaphon {

struct AiffHead {
  FileForm form;                  ///< of one or two channels
  std::uint64_t behindBytes = 0;  ///< of chunks behind the samples, whole
  std::uint64_t dataBytes = 0;    ///< of the samples, without padding

  /// `FORM`, `COMM` and the head of `SSND`; of one length whatever the number of samples.
  std::string bytes() const;
};

/// Chunks behind the samples: `MARK` and, of a loop, `INST`; `ID3 ` with all texts. Markers are points: a
/// stretch is where it begins. 65 535 at most, and their labels have 255 bytes.
std::string aiffDataChunks(const FileData& data, const FileForm& form);

inline constexpr std::size_t kMostAiffMarks = 65'000;

}  // namespace octaphon
