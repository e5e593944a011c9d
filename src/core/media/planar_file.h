// A sound file read turn by turn, its channels beside each other.
#pragma once

#include <vector>

#include "media/sound_file.h"

namespace octaphon {

class PlanarFile {
 public:
  static constexpr Frame kTurn = 4096;

  /// `file` must live as long.
  explicit PlanarFile(SoundFile& file);

  /// The next frames, at most a turn, and at most so many; 0 at the end.
  Frame read(Frame most = kTurn);
  /// Of what was read last.
  const float* const* channels() const { return channels_.data(); }

 private:
  SoundFile& file_;
  std::vector<float> interleaved_, planar_;
  std::vector<const float*> channels_;
};

}  // namespace octaphon
