#include "finish/gate.h"

#include <algorithm>
#include <array>

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
  OCTAPHON_TRY(held_.add(block, 0, block.frames));
  OCTAPHON_TRY(openTo(0));
  if (isEnding_ && given_ >= open_) held_.clear();
  return {};
}

}  // namespace octaphon
