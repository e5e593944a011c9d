// A block of what is listened to, in the channels that it has.
#pragma once

#include <vector>

#include "base/frames.h"

namespace octaphon {

class HeardBlock {
 public:
  /// 1, 2, 4, 6 or 8 channels.
  explicit HeardBlock(int channels) : channels_(channels) {}

  /// Silence of so many frames.
  void clear(Frame frames);
  /// Adds `gain` times planar sound of other channels, folded as in files; mono goes to all of them as it is.
  void add(const float* const* sound, int channels, float gain);
  /// On two loudspeakers, interleaved.
  std::vector<float> asStereo() const;

 private:
  void addAll(const float* const* sound, int channels, float gain);

  int channels_;
  Frame frames_ = 0;
  std::vector<float> samples_;  // planar
};

}  // namespace octaphon
