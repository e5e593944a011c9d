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
  const float* channels[kMaxTapChannels];
  return next_.take(partOf(block, channels_, before, count, channels));
}

}  // namespace octaphon
