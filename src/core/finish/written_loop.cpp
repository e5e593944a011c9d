#include "finish/written_loop.h"

#include <algorithm>

#include "loop/seam.h"

namespace octaphon {

Result<> WrittenLoop::write(const std::int32_t* const* channels, Frame frames) {
  keep(channels, frames, scale_);
  return next_.write(channels, frames);
}

Result<> WrittenLoop::write(const float* const* channels, Frame frames) {
  keep(channels, frames, 1);
  return next_.write(channels, frames);
}

template <class Sample>
void WrittenLoop::keep(const Sample* const* channels, Frame frames, float scale) {
  const Frame from = length_ > 0 ? 0 : std::clamp<Frame>(start_ - taken_, 0, frames);
  for (std::size_t c = 0; c < sound_.channels.size(); ++c)
    for (Frame i = from; i < frames; ++i)
      sound_.channels[c].push_back(static_cast<float>(channels[c][i]) * scale);
  taken_ += frames;
  if (length_ == 0) shorten();
}

/// The middle of a long one is not needed.
void WrittenLoop::shorten() {
  const Frame each = framesOf(kSeamSeconds, sound_.rate);
  if (sound_.frames() < 4 * each) return;
  for (std::vector<float>& channel : sound_.channels)
    channel.erase(channel.begin() + each, channel.end() - each);
}

Lap WrittenLoop::lap() const {
  if (length_ == 0) return sound_;
  Lap lap{sound_.rate, {}};
  // From its downbeat on: that is where the next one is laid over it.
  for (const std::vector<float>& channel : sound_.channels) {
    std::vector<float>& sum = lap.channels.emplace_back(static_cast<std::size_t>(length_), 0.0f);
    for (std::size_t i = 0; i < channel.size(); ++i)
      sum[static_cast<std::size_t>(((static_cast<Frame>(i) - start_) % length_ + length_) % length_)] +=
          channel[i];
  }
  return lap;
}

}  // namespace octaphon
