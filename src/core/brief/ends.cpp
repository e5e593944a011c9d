#include "brief/ends.h"

namespace octaphon {
namespace {

/// Takes over a length in one of two units.
void take(const std::optional<double>& seconds, const std::optional<double>& bars, double& ofSeconds,
          double& ofBars) {
  if (!seconds && !bars) return;
  ofSeconds = seconds.value_or(0);
  ofBars = bars.value_or(0);
}

}  // namespace

Ends endsWith(Ends ends, const OwnEnds& own) {
  if (own.tail)
    ends.tail = *own.tail;
  else if ((own.tailSeconds || own.tailBars) && ends.tail != Tail::AsHeard)
    ends.tail = Tail::Fixed;
  take(own.tailSeconds, own.tailBars, ends.tailSeconds, ends.tailBars);
  take(own.leadInSeconds, own.leadInBars, ends.leadInSeconds, ends.leadInBars);
  ends.silenceSeconds = own.silenceSeconds.value_or(ends.silenceSeconds);
  ends.fadeInMs = own.fadeInMs.value_or(ends.fadeInMs);
  ends.fadeOutMs = own.fadeOutMs.value_or(ends.fadeOutMs);
  ends.exactSeconds = own.exactSeconds.value_or(ends.exactSeconds);
  return ends;
}

}  // namespace octaphon
