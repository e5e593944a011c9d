#include "play/heard_block.h"

#include "routing/mixing_law.h"

namespace octaphon {

void HeardBlock::clear(Frame frames) {
  frames_ = frames;
  samples_.assign(static_cast<std::size_t>(channels_ * frames), 0.0f);
}

static bool isLayout(int channels) {
  return channels == 1 || channels == 2 || channels == 4 || channels == 6 || channels == 8;
}

/// Sources beside each other are no places around a listener: each is in the middle.
void HeardBlock::addAll(const float* const* sound, int channels, float gain) {
  for (int c = 0; c < channels_; ++c) {
    float* own = samples_.data() + c * frames_;
    for (int from = 0; from < channels; ++from)
      for (Frame i = 0; i < frames_; ++i) own[i] += gain * sound[from][i];
  }
}

void HeardBlock::add(const float* const* sound, int channels, float gain) {
  if (!isLayout(channels)) return addAll(sound, channels, gain);
  const MixMatrix matrix = foldMatrix(channels, channels_);
  std::vector<float> folded(static_cast<std::size_t>(frames_));
  for (int c = 0; c < channels_; ++c) {
    foldChannel(matrix, sound, c, frames_, folded.data());
    float* own = samples_.data() + c * frames_;
    for (Frame i = 0; i < frames_; ++i) own[i] += gain * folded[static_cast<std::size_t>(i)];
  }
}

std::vector<float> HeardBlock::asStereo() const {
  const MixMatrix matrix = foldMatrix(channels_, 2);
  const float* channels[kMaxTapChannels];
  for (int c = 0; c < channels_; ++c) channels[c] = samples_.data() + c * frames_;
  std::vector<float> stereo(static_cast<std::size_t>(2 * frames_));
  std::vector<float> side(static_cast<std::size_t>(frames_));
  for (int s = 0; s < 2; ++s) {
    foldChannel(matrix, channels, s, frames_, side.data());
    for (Frame i = 0; i < frames_; ++i)
      stereo[static_cast<std::size_t>(2 * i + s)] = side[static_cast<std::size_t>(i)];
  }
  return stereo;
}

}  // namespace octaphon
