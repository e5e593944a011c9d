// What rows must have in common to share a pass.
#pragma once

#include <string>

#include "plan/sheet.h"
#include "recipe/heard_clips.h"

namespace octaphon {

struct PassKey {
  Frame start = 0;  ///< of the body
  Frame length = 0;
  Frame leadIn = 0;
  Frame tail = 0;        ///< frames; only where what is heard depends on it
  bool finish = false;   ///< clips may run on in the tail
  bool asHeard = false;  ///< the session goes on in the tail
  Frame context = 0;     ///< as a span's
  SpanLoop loop;
  std::string only;  ///< key() of a span in which its own clips sound alone; empty: everything sounds
  Counting counting;
  auto operator<=>(const PassKey&) const = default;
  PlannedSpan span() const;
};

PassKey passKeyOf(const Sheet& sheet, const Row& row);
PassKey passKeyOf(const PlannedSpan& span, const Counting& counting);

}  // namespace octaphon
