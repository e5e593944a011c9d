#include "finish/fold_channels.h"

#include <algorithm>

namespace octaphon {

FoldChannels::FoldChannels(int from, int to, Stage& next)
    : from_(from), to_(to), matrix_(mixMatrix(from, to, 1, 0)), next_(next) {}

Result<> FoldChannels::take(const SoundBlock& block) {
  if (block.isSilent()) return next_.take(block);
  const float* out[kMaxMixChannels];
  if (from_ == 1) {
    std::fill_n(out, to_, block.channels[0]);
    return next_.take({out, block.frames});
  }
  folded_.resize(static_cast<std::size_t>(to_ * block.frames));
  for (int c = 0; c < to_; ++c) {
    float* const folded = folded_.data() + c * block.frames;
    fold(block, c, folded);
    out[c] = folded;
  }
  return next_.take({out, block.frames});
}

void FoldChannels::fold(const SoundBlock& block, int channel, float* out) const {
  const auto& gains = matrix_.gain[static_cast<std::size_t>(channel)];
  for (Frame i = 0; i < block.frames; ++i) {
    double sum = 0;
    for (int c = 0; c < from_; ++c) sum += gains[static_cast<std::size_t>(c)] * block.channels[c][i];
    out[i] = static_cast<float>(sum);
  }
}

}  // namespace octaphon
