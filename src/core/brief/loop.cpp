#include "brief/loop.h"

namespace octaphon {

Loop loopWith(Loop loop, const OwnLoop& own) {
  static const OwnLoop kNothing;
  const auto take = [](const auto& value, const auto& usual, auto& into) {
    if (value != usual) into = value;
  };
  if (own.way) loop.way = *own.way;
  if (own.hasLength()) {
    loop.frames = own.frames;
    loop.seconds = own.seconds;
    loop.bars = own.bars;
  }
  take(own.laps, kNothing.laps, loop.laps);
  take(own.keepIntro, kNothing.keepIntro, loop.keepIntro);
  take(own.blendMs, kNothing.blendMs, loop.blendMs);
  take(own.blendLaw, kNothing.blendLaw, loop.blendLaw);
  take(own.searchMs, kNothing.searchMs, loop.searchMs);
  take(own.equal, kNothing.equal, loop.equal);
  return loop;
}

}  // namespace octaphon
