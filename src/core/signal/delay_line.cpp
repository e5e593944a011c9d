#include "signal/delay_line.h"

#include <algorithm>

namespace octaphon {

DelayLine::DelayLine(int channels, Frame delay)
    : delay_(delay),
      quiet_(delay),
      waiting_(static_cast<std::size_t>(channels),
               std::vector<float>(static_cast<std::size_t>(delay), 0.0f)) {}

bool DelayLine::process(const float* const* in, float* const* out, Frame frames) {
  if (in == nullptr && quiet_ >= delay_) return false;
  const Frame first = std::min(frames, delay_);  // out of what waits
  for (std::size_t c = 0; c < waiting_.size(); ++c) {
    std::vector<float>& waiting = waiting_[c];
    std::copy_n(waiting.begin(), first, out[c]);
    if (in != nullptr)
      std::copy_n(in[c], frames - first, out[c] + first);
    else
      std::fill_n(out[c] + first, frames - first, 0.0f);
    std::copy(waiting.begin() + first, waiting.end(), waiting.begin());
    const auto tail = waiting.end() - first;
    if (in != nullptr)
      std::copy_n(in[c] + frames - first, first, tail);
    else
      std::fill_n(tail, first, 0.0f);
  }
  quiet_ = in == nullptr ? quiet_ + frames : 0;
  return true;
}

}  // namespace octaphon
