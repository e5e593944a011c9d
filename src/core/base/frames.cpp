#include "base/frames.h"

#include <cmath>
#include <cstdio>

namespace octaphon {

Frame framesOf(double seconds, int rate) {
  const double frames = std::round(seconds * rate);
  return frames < static_cast<double>(kMaxFrame) ? static_cast<Frame>(frames) : kMaxFrame;
}

std::string timeText(Frame frames, int rate) {
  if (frames < 0) return "−" + timeText(-frames, rate);
  const Frame ms = atRate(frames, rate, 1000);
  const auto part = [](Frame value) { return static_cast<long long>(value); };
  char text[48];
  if (ms < 3'600'000)
    std::snprintf(text, sizeof text, "%lld:%02lld.%03lld", part(ms / 60'000), part(ms / 1000 % 60),
                  part(ms % 1000));
  else
    std::snprintf(text, sizeof text, "%lld:%02lld:%02lld.%03lld", part(ms / 3'600'000),
                  part(ms / 60'000 % 60), part(ms / 1000 % 60), part(ms % 1000));
  return text;
}

std::string shortTimeText(double seconds) {
  const auto whole = static_cast<long long>(seconds);
  char text[48];
  std::snprintf(text, sizeof text, "%lld:%02lld", whole / 60, whole % 60);
  return text;
}

}  // namespace octaphon
