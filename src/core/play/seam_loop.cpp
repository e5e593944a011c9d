#include "play/seam_loop.h"

#include <algorithm>

#include "play/heard_block.h"

namespace octaphon {
namespace {

constexpr double kFadeSeconds = 0.008;

/// Appends what a lap has there, on two loudspeakers.
void append(const Lap& part, std::vector<float>& stereo) {
  std::vector<const float*> channels;
  for (const std::vector<float>& channel : part.channels) channels.push_back(channel.data());
  const auto count = static_cast<int>(channels.size());
  HeardBlock block(count);
  block.clear(part.frames());
  block.add(channels.data(), count, 1);
  const std::vector<float> heard = block.asStereo();
  stereo.insert(stereo.end(), heard.begin(), heard.end());
}

/// So many frames before the join and behind it.
SeamLoop joined(const HeardLoop& heard, LoopPlace place, Frame before, Frame behind) {
  SeamLoop loop{heard.sound.rate, {}, before, place.end() - before, place.start};
  append(heard.part(loop.beforeJoin, before), loop.stereo);
  append(heard.part(loop.behindJoin, behind), loop.stereo);
  return loop;
}

}  // namespace

SeamLoop seamLoopOf(const HeardLoop& heard, LoopPlace place, double seconds) {
  const Frame each = std::min(framesOf(seconds, heard.sound.rate), place.length);
  SeamLoop loop = joined(heard, place, each, each);
  const Frame fade = std::min(framesOf(kFadeSeconds, loop.rate), each / 4);
  for (Frame i = 0; i < fade; ++i) {
    const float gain = (static_cast<float>(i) + 0.5f) / static_cast<float>(fade);
    for (const Frame at : {i, loop.frames() - 1 - i})
      for (std::size_t side = 0; side < 2; ++side)
        loop.stereo[2 * static_cast<std::size_t>(at) + side] *= gain;
  }
  return loop;
}

SeamLoop lapLoopOf(const HeardLoop& heard, LoopPlace place, double seconds) {
  const Frame before = std::min(framesOf(seconds, heard.sound.rate), place.length);
  return joined(heard, place, before, place.length - before);
}

}  // namespace octaphon
