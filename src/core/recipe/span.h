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
  Frame start = 0;       ///< of the body
  Frame length = 0;      ///< of the body
  Frame leadIn = 0;      ///< frames kept before the body
  Frame tail = 0;        ///< frames after the body; of one that rings out the most
  bool finish = false;   ///< clips may run on in the tail, under BeginsHere
  bool asHeard = false;  ///< the session goes on in the tail
  bool ringsOut = false;
  Frame context = 0;  ///< frames heard beyond both ends, under EverythingHeard: a converted rate needs them
  int channels = 0;   ///< of its files; 0: as tapped
  Frame first() const { return start - leadIn; }  ///< may be before the session
  Frame end() const { return start + length; }
  Frame last() const { return end() + tail; }  ///< one after the last frame kept

  /// A stretch of time that is neither named nor kept.
  static PlannedSpan stretch(Frame start, Frame length) {
    PlannedSpan span;
    span.start = start;
    span.length = length;
    return span;
  }
};

}  // namespace octaphon
