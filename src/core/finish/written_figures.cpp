#include "finish/written_figures.h"

#include <algorithm>
#include <cmath>

namespace octaphon {

WrittenFigures::WrittenFigures(SampleSink& next, int channels, int bits)
    : next_(next),
      scale_(bits > 0 ? std::ldexp(1.0f, 1 - bits) : 1.0f),
      meter_(channels, bits),
      scaled_(static_cast<std::size_t>(channels)),
      channels_(scaled_.size()) {}

Result<> WrittenFigures::write(const std::int32_t* const* channels, Frame frames) {
  for (std::size_t c = 0; c < scaled_.size(); ++c) {
    scaled_[c].resize(std::max(scaled_[c].size(), static_cast<std::size_t>(frames)));
    std::transform(channels[c], channels[c] + frames, scaled_[c].begin(),
                   [&](std::int32_t sample) { return static_cast<float>(sample) * scale_; });
    channels_[c] = scaled_[c].data();
  }
  meter_.take(channels_.data(), frames);
  return next_.write(channels, frames);
}

Result<> WrittenFigures::write(const float* const* channels, Frame frames) {
  meter_.take(channels, frames);
  return next_.write(channels, frames);
}

}  // namespace octaphon
