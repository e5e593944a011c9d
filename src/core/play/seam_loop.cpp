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

}  // namespace

SeamLoop seamLoopOf(const HeardLoop& heard, LoopPlace place, double seconds) {
  SeamLoop loop;
  loop.rate = heard.sound.rate;
  const Frame each = std::min(framesOf(seconds, loop.rate), place.length);
  loop.join = each;
  loop.beforeJoin = place.end() - each;
  loop.behindJoin = place.start;
  append(heard.part(place.end() - each, each), loop.stereo);
  append(heard.part(place.start, each), loop.stereo);
  const Frame fade = std::min(framesOf(kFadeSeconds, loop.rate), each / 4);
  for (Frame i = 0; i < fade; ++i) {
    const float gain = (static_cast<float>(i) + 0.5f) / static_cast<float>(fade);
    for (const Frame at : {i, loop.frames() - 1 - i})
      for (std::size_t side = 0; side < 2; ++side)
        loop.stereo[2 * static_cast<std::size_t>(at) + side] *= gain;
  }
  return loop;
}

}  // namespace octaphon
