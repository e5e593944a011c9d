#include "finish/written_loop.h"

#include <algorithm>

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
  const Frame at = length_ > 0 ? taken_ : taken_ + from - start_;
  for (std::size_t c = 0; c < sound_.channels.size(); ++c)
    keepOf(c, channels[c] + from, at, frames - from, scale);
  taken_ += frames;
}

/// The middle of a long one is not needed.
template <class Sample>
void WrittenLoop::keepOf(std::size_t channel, const Sample* samples, Frame at, Frame frames, float scale) {
  std::vector<float>& kept = sound_.channels[channel];
  while (frames > 0) {
    auto place = static_cast<std::size_t>(at);
    auto count = static_cast<std::size_t>(frames);
    if (length_ == 0) {
      if (place >= each_) place = each_ + (place - each_) % each_;
      count = std::min(count, each_ - place % each_);
    }
    if (kept.size() < place + count) kept.resize(place + count);
    for (std::size_t i = 0; i < count; ++i) kept[place + i] = static_cast<float>(samples[i]) * scale;
    samples += count;
    at += static_cast<Frame>(count);
    frames -= static_cast<Frame>(count);
  }
}

Lap WrittenLoop::lap() const {
  if (length_ > 0) return overlaid(sound_, start_, length_);
  Lap lap = sound_;
  const auto taken = static_cast<std::size_t>(std::max<Frame>(0, taken_ - start_));
  if (taken <= 2 * each_) return lap;
  lap.splice = static_cast<Frame>(each_);
  for (std::vector<float>& channel : lap.channels)
    std::rotate(channel.begin() + static_cast<std::ptrdiff_t>(each_),
                channel.begin() + static_cast<std::ptrdiff_t>(each_ + taken % each_), channel.end());
  return lap;
}

}  // namespace octaphon
