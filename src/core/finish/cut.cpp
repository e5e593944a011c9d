#include "finish/cut.h"

#include <algorithm>

#include "routing/mixing_law.h"

namespace octaphon {

Result<> Cut::take(const SoundBlock& block) {
  const Frame before = std::min(skipped_, block.frames);
  const Frame count = std::min(block.frames - before, left_);
  skipped_ -= before;
  left_ -= count;
  if (count == 0) return {};
  if (block.isSilent()) return next_.take({nullptr, count});
  const float* from[kMaxMixChannels];
  for (int c = 0; c < channels_; ++c) from[c] = block.channels[c] + before;
  return next_.take({from, count});
}

}  // namespace octaphon
