// The stages that a file's sound goes through between its tap and its encoder, in the order of the rules:
// each hands on what it makes of the blocks it is given. Blocks may have any size; what comes out at the end
// does not depend on it. A chain belongs to one thread at a time.
#pragma once

#include "base/frames.h"
#include "base/result.h"

namespace octaphon {

/// Frames of some channels, planar, full scale ±1.
struct SoundBlock {
  const float* const* channels = nullptr;  ///< null: silence
  Frame frames = 0;
  bool isSilent() const { return channels == nullptr; }
};

/// What a block has from `from` on; `channels` keeps its pointers.
inline SoundBlock partOf(const SoundBlock& block, int count, Frame from, Frame frames,
                         const float** channels) {
  if (block.isSilent()) return {nullptr, frames};
  for (int c = 0; c < count; ++c) channels[c] = block.channels[c] + from;
  return {channels, frames};
}

class Stage {
 public:
  virtual ~Stage() = default;
  /// The next frames. After an error, nothing more may be given.
  virtual Result<> take(const SoundBlock& block) = 0;
  /// The sound has ended; what was held back is handed on.
  virtual Result<> end() = 0;
  /// False once more frames would change nothing.
  virtual bool wantsMore() const { return true; }
};

}  // namespace octaphon
