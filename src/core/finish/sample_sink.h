// Where the finished samples of a file go: an encoder.
#pragma once

#include <cstdint>

#include "base/frames.h"
#include "base/result.h"

namespace octaphon {

class SampleSink {
 public:
  virtual ~SampleSink() = default;
  /// Integers of the file's bits, a pointer for each channel. Of files of whole numbers.
  virtual Result<> write(const std::int32_t* const* channels, Frame frames) = 0;
  /// Full scale ±1, a pointer for each channel. Of files of floating point.
  virtual Result<> write(const float* const* channels, Frame frames) = 0;
};

}  // namespace octaphon
