#include "finish/fold_channels.h"

#include <algorithm>

namespace octaphon {

FoldChannels::FoldChannels(int from, int to, Stage& next)
    : from_(from), to_(to), matrix_(foldMatrix(from, to)), next_(next) {}

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
    foldChannel(matrix_, block.channels, c, block.frames, folded);
    out[c] = folded;
  }
  return next_.take({out, block.frames});
}

}  // namespace octaphon
