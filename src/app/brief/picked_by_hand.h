// What ticks by hand mean beside rules.
#pragma once

#include <vector>

#include "brief/chooser.h"

namespace octaphon::app {

struct PickedByHand {
  Choosable thing;
  bool isTicked = false;
};

/// A list of what is ticked, where the selection has no rules; else the rules, and by hand what is otherwise
/// than they say.
inline Selection withTicks(const Selection& before, const std::vector<PickedByHand>& ticks) {
  Selection after = before;
  if (before.handPicked()) {
    after = {};
    for (const PickedByHand& tick : ticks)
      if (tick.isTicked) after.picks.push_back({false, PickBy::Id, std::string(tick.thing.id)});
    return after;
  }
  Chooser chooser(before);
  for (const PickedByHand& tick : ticks)
    if (chooser.takes(tick.thing) != tick.isTicked)
      after.setByHand(std::string(tick.thing.id), tick.isTicked);
  return after;
}

}  // namespace octaphon::app
