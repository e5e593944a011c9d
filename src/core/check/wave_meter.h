// The wave of a sound in a few columns, for pictures.
#pragma once

#include <cstddef>
#include <vector>

#include "base/frames.h"

namespace octaphon {

struct WaveColumn {
  float low = 0, high = 0;  ///< smallest and largest sample of all channels, full scale ±1
};

/// Which of so many equal stretches a frame is in. Headers that only estimate `frames` may be wrong: what is
/// beyond is in the last.
std::size_t columnOf(Frame frame, Frame frames, std::size_t columns);

class WaveMeter {
 public:
  /// `most` columns, or one a frame where there are fewer of `expected` frames.
  WaveMeter(int channels, Frame expected, std::size_t most);
  void take(const float* const* channels, Frame frames);
  const std::vector<WaveColumn>& columns() const { return columns_; }

 private:
  int channels_;
  Frame expected_, taken_ = 0;
  std::vector<WaveColumn> columns_;
};

}  // namespace octaphon
