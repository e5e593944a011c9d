// Sound that comes some frames later.
#pragma once

#include <vector>

#include "base/frames.h"

namespace octaphon {

class DelayLine {
 public:
  DelayLine() = default;
  DelayLine(int channels, Frame delay);

  Frame delay() const { return delay_; }
  /// `in` null: silence. False: nothing but silence came out, and `out` was not touched. in and out may not
  /// be the same.
  bool process(const float* const* in, float* const* out, Frame frames);

 private:
  Frame delay_ = 0;
  Frame quiet_ = 0;                          // frames since anything went in
  std::vector<std::vector<float>> waiting_;  // by channel, the oldest first
};

}  // namespace octaphon
