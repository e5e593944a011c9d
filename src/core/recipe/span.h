// A stretch of time that sound is taken over, and what it says of its own.
#pragma once

#include <string>

#include "base/frames.h"

namespace octaphon {

struct PlannedSpan {
  enum class Kind { Region, ClipSet };
  Kind kind = Kind::Region;
  std::string id;  ///< of the region or clip set
  std::string name;
  Frame start = 0;
  Frame length = 0;     ///< of the body
  bool finish = false;  ///< clips may run on in the tail, under BeginsHere
  Frame tail = 0;       ///< frames after the body
  int channels = 0;     ///< of its files; 0: as tapped
  Frame end() const { return start + length; }

  /// A stretch of time that is neither named nor kept.
  static PlannedSpan stretch(Frame start, Frame length) {
    PlannedSpan span;
    span.start = start;
    span.length = length;
    return span;
  }
};

}  // namespace octaphon
