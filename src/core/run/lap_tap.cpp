#include "run/lap_tap.h"

#include <algorithm>

namespace octaphon {

void LapTap::take(const TapSource& source, Frame at, Frame frames) {
  const Frame before = std::clamp<Frame>(-at, 0, frames);
  const Frame skipped = std::min(skipped_, frames - before);
  skipped_ -= skipped;
  const TapBlock block = source.tap(tap_).after(before + skipped);
  const auto count =
      static_cast<std::size_t>(std::clamp<Frame>(frames - before - skipped, 0, frames_ - heard_.frames()));
  for (std::size_t c = 0; c < heard_.channels.size(); ++c) {
    std::vector<float>& heard = heard_.channels[c];
    if (block.isSilent())
      heard.resize(heard.size() + count, 0.0f);
    else
      heard.insert(heard.end(), block.channel[c], block.channel[c] + count);
  }
}

}  // namespace octaphon
