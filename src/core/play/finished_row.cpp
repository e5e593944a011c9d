#include "play/finished_row.h"

#include <algorithm>

#include "routing/mixing_law.h"

namespace octaphon {

FinishedRow::FinishedRow(FinishPlan plan, Frame start, Frame first)
    : channels_(plan.form.channels),
      first_(first),
      next_(start),
      chain_(std::move(plan), *this),
      finished_(static_cast<std::size_t>(channels_)) {}

Result<> FinishedRow::take(const TapBlock& block, Frame at, Frame frames) {
  const Frame before = std::clamp<Frame>(first_ - at, 0, frames);
  if (before == frames || !wantsMore()) return {};
  const TapBlock rest = block.after(before);
  return chain_.take({rest.isSilent() ? nullptr : rest.channel, frames - before});
}

Result<> FinishedRow::write(const float* const* channels, Frame frames) {
  for (int c = 0; c < channels_; ++c) {
    std::vector<float>& own = finished_[static_cast<std::size_t>(c)];
    own.erase(own.begin(), own.begin() + static_cast<std::ptrdiff_t>(given_));
    own.insert(own.end(), channels[c], channels[c] + frames);
  }
  given_ = 0;
  return {};
}

void FinishedRow::addNext(Frame frames, float gain, HeardBlock& block) {
  const float* sound[kMaxTapChannels];
  for (int c = 0; c < channels_; ++c) sound[c] = finished_[static_cast<std::size_t>(c)].data() + given_;
  block.add(sound, channels_, gain);
  given_ += frames;
  next_ += frames;
}

}  // namespace octaphon
