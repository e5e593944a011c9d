// Whether the files of layers add up to the file of their mix.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/result.h"
#include "base/safe_folder.h"

namespace octaphon {

struct FileSum {
  double residualDb = 0;  ///< of what is left over: rms of whole numbers, peak of floating point, dBFS
  double limitDb = 0;     ///< what rounding and dither of all of them may leave
  bool addsUp() const { return residualDb <= limitDb; }
};

/// Lossless files of one rate, width, length and number of channels, below the base folder. What may be left
/// of K layers and a mix in steps of q: rms of (K + 1) · q²/12 · 3, with 1 dB on top, for each has dither of
/// two steps (Lipshitz, Wannamaker and Vanderkooy 1992); of floating point a peak of −120 dBFS. Errors as
/// when files are read; BadValue where they are not alike. `bits` of whole numbers; 0: floating point.
Result<FileSum> sumOf(const SafeFolder& folder, const std::vector<std::string>& layers,
                      const std::string& mix, int bits);

}  // namespace octaphon
