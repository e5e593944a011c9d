#include "finish/edge_fades.h"

#include <algorithm>
#include <array>

#include "routing/mixing_law.h"

namespace octaphon {

EdgeFades::EdgeFades(int channels, EdgeFade in, EdgeFade out, Stage& next)
    : channels_(channels), held_(channels), fader_(channels, next), hold_(out.frames) {
  fader_.in = in;
  fader_.out = out;
}

Result<> EdgeFades::take(const SoundBlock& block) {
  if (hold_ == 0) return fader_.take(block);
  const Frame now = std::max<Frame>(0, block.frames - hold_);  // of the block: what cannot be the end
  OCTAPHON_TRY(held_.giveTo(fader_, held_.frames() + block.frames - hold_ - now));
  const float* channels[kMaxTapChannels];
  if (now > 0) OCTAPHON_TRY(fader_.take(partOf(block, channels_, 0, now, channels)));
  return held_.add(block, now, block.frames - now);
}

Result<> EdgeFades::end() {
  fader_.left = held_.frames();
  OCTAPHON_TRY(held_.giveTo(fader_, held_.frames()));
  return fader_.end();
}

double EdgeFades::Fader::gainAt(Frame frame) const {
  const auto ratio = [](Frame part, Frame whole) {
    return static_cast<double>(part) / static_cast<double>(whole);
  };
  double gain = 1;
  if (taken_ + frame < in.frames) gain *= fadeGain(in.shape, ratio(taken_ + frame, in.frames));
  if (left - frame <= out.frames) gain *= fadeGain(out.shape, ratio(left - frame, out.frames));
  return gain;
}

Result<> EdgeFades::Fader::take(const SoundBlock& block) {
  const bool isPlain = block.isSilent() || (taken_ >= in.frames && left - block.frames >= out.frames);
  std::array<const float*, kMaxTapChannels> channels{};
  if (!isPlain) {
    faded_.resize(static_cast<std::size_t>(channels_ * block.frames));
    for (int c = 0; c < channels_; ++c) {
      float* const own = faded_.data() + c * block.frames;
      for (Frame i = 0; i < block.frames; ++i) own[i] = static_cast<float>(block.channels[c][i] * gainAt(i));
      channels[static_cast<std::size_t>(c)] = own;
    }
  }
  taken_ += block.frames;
  if (left < kMaxFrame) left -= block.frames;
  return next_.take(isPlain ? block : SoundBlock{channels.data(), block.frames});
}

}  // namespace octaphon
