#include "finish/fold_channels.h"

#include <algorithm>

namespace octaphon {

FoldChannels::FoldChannels(int from, int to, int part, Stage& next)
    : from_(from),
      first_(std::max(0, part - 1)),
      count_(part > 0 ? 1 : to),
      matrix_(foldMatrix(from, to)),
      next_(next) {}

Result<> FoldChannels::take(const SoundBlock& block) {
  if (block.isSilent()) return next_.take(block);
  const float* out[kMaxMixChannels];
  if (from_ == 1) {
    std::fill_n(out, count_, block.channels[0]);
    return next_.take({out, block.frames});
  }
  folded_.resize(static_cast<std::size_t>(count_ * block.frames));
  for (int c = 0; c < count_; ++c) {
    float* const folded = folded_.data() + c * block.frames;
    foldChannel(matrix_, block.channels, first_ + c, block.frames, folded);
    out[c] = folded;
  }
  return next_.take({out, block.frames});
}

}  // namespace octaphon
