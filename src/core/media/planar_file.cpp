#include "media/planar_file.h"

#include <algorithm>

namespace octaphon {

PlanarFile::PlanarFile(SoundFile& file)
    : file_(file),
      interleaved_(static_cast<std::size_t>(kTurn * file.info().channels)),
      planar_(interleaved_.size()) {
  for (int c = 0; c < file.info().channels; ++c) channels_.push_back(planar_.data() + c * kTurn);
}

Frame PlanarFile::read(Frame most) {
  const auto count = static_cast<Frame>(channels_.size());
  const Frame frames = file_.read(interleaved_.data(), std::min(kTurn, most));
  for (Frame c = 0; c < count; ++c)
    for (Frame i = 0; i < frames; ++i)
      planar_[static_cast<std::size_t>(c * kTurn + i)] =
          interleaved_[static_cast<std::size_t>(i * count + c)];
  return frames;
}

}  // namespace octaphon
