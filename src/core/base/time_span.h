// A stretch of time.
#pragma once

#include "base/frames.h"

namespace octaphon {

struct TimeSpan {
  Frame start = 0;
  Frame length = 0;
  bool operator==(const TimeSpan&) const = default;
  Frame end() const { return start + length; }
};

}  // namespace octaphon
