// The seam of a loop in an audio file, as it lies on the disk.
#pragma once

#include <filesystem>
#include <optional>
#include <vector>

#include "base/result.h"
#include "loop/seam_search.h"

namespace octaphon {

struct FileSeam {
  int rate = 48000;  ///< Hz, the file's
  LoopPlace place;   ///< in frames of the file
  Seam seam;
  std::vector<LoopCandidate> candidates;  ///< the best first; empty where none were looked for
};

/// What may be searched, in seconds to either side.
inline constexpr double kMaxSearchSeconds = 5;

/// Of the loop that is given; else of the first one that a WAV names in its `smpl`; else of the whole file.
/// `searchMs`: to either side, within which better places are looked for, 0 … kMaxSearchSeconds; 0: none are.
/// Errors as when media are read; BadValue where the loop does not lie in the file, NothingLeft where the
/// file is empty.
Result<FileSeam> seamOf(const std::filesystem::path& file, std::optional<LoopPlace> place, double searchMs);

}  // namespace octaphon
