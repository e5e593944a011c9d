#include "finish/gate.h"

#include <algorithm>

#include "routing/mixing_law.h"

namespace octaphon {

Result<> Gate::openTo(Frame frames) {
  open_ = std::max(open_, frames);
  const Frame now = std::min(held_.frames(), open_ - given_);
  if (now <= 0) return {};
  given_ += now;
  return held_.giveTo(next_, now);
}

Result<> Gate::endAt(Frame frames) {
  isEnding_ = true;
  OCTAPHON_TRY(openTo(frames));
  if (given_ >= open_) held_.clear();
  return {};
}

Result<> Gate::take(const SoundBlock& block) {
  const Frame now = held_.frames() > 0 ? 0 : std::clamp<Frame>(open_ - given_, 0, block.frames);
  if (now > 0) {
    const float* channels[kMaxTapChannels];
    given_ += now;
    OCTAPHON_TRY(next_.take(partOf(block, channels_, 0, now, channels)));
  }
  if (isEnding_ && given_ >= open_) return {};
  OCTAPHON_TRY(held_.add(block, now, block.frames - now));
  return openTo(0);
}

}  // namespace octaphon
