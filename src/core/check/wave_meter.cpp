#include "check/wave_meter.h"

#include <algorithm>

namespace octaphon {

std::size_t columnOf(Frame frame, Frame frames, std::size_t columns) {
  const auto column = static_cast<std::size_t>(static_cast<double>(frame) / static_cast<double>(frames) *
                                               static_cast<double>(columns));
  return std::min(column, columns - 1);
}

WaveMeter::WaveMeter(int channels, Frame expected, std::size_t most)
    : channels_(channels),
      expected_(std::max<Frame>(1, expected)),
      columns_(std::min(most, static_cast<std::size_t>(expected_))) {}

void WaveMeter::take(const float* const* channels, Frame frames) {
  if (columns_.empty()) return;
  for (Frame i = 0; i < frames; ++i) {
    WaveColumn& column = columns_[columnOf(taken_ + i, expected_, columns_.size())];
    for (int c = 0; c < channels_; ++c) {
      column.low = std::min(column.low, channels[c][i]);
      column.high = std::max(column.high, channels[c][i]);
    }
  }
  taken_ += frames;
}

}  // namespace octaphon
