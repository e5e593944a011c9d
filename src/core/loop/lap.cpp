#include "loop/lap.h"

#include <algorithm>
#include <cmath>

namespace octaphon {

Lap aroundJoin(const Lap& lap, Frame each) {
  if (lap.frames() <= 2 * each) return lap;
  Lap around{lap.rate, {}, each};
  for (const std::vector<float>& channel : lap.channels) {
    std::vector<float>& kept = around.channels.emplace_back(channel.begin(), channel.begin() + each);
    kept.insert(kept.end(), channel.end() - each, channel.end());
  }
  return around;
}

Lap overlaid(const Lap& sound, Frame downbeat, Frame length) {
  Lap lap{sound.rate, {}, 0};
  for (const std::vector<float>& channel : sound.channels) {
    std::vector<float>& sum = lap.channels.emplace_back(static_cast<std::size_t>(length), 0.0f);
    for (std::size_t i = 0; i < channel.size(); ++i)
      sum[static_cast<std::size_t>(((static_cast<Frame>(i) - downbeat) % length + length) % length)] +=
          channel[i];
  }
  return lap;
}

Lap partOf(const Lap& lap, Frame start, Frame frames) {
  Lap part{lap.rate, {}, 0};
  const Frame from = std::clamp<Frame>(start, 0, lap.frames());
  const Frame to = std::clamp<Frame>(start + frames, from, lap.frames());
  for (const std::vector<float>& channel : lap.channels) {
    std::vector<float>& taken = part.channels.emplace_back(static_cast<std::size_t>(frames), 0.0f);
    std::copy(channel.begin() + from, channel.begin() + to, taken.begin() + (from - start));
  }
  return part;
}

double peakOf(const Lap& lap) {
  float peak = 0;
  for (const std::vector<float>& channel : lap.channels)
    for (const float sample : channel) peak = std::max(peak, std::fabs(sample));
  return static_cast<double>(peak);
}

}  // namespace octaphon
