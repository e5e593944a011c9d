// The file of a row, read along with the session.
#pragma once

#include <memory>
#include <vector>

#include "media/sound_file.h"
#include "play/heard_block.h"

namespace octaphon {

/// Silent before its start, behind its end and where it cannot be read. A file of another rate is converted
/// once, when it is opened, and held in memory.
class RowFile {
 public:
  /// `start`: the session frame of its first one; `rate`: the session's, in Hz.
  RowFile(const std::filesystem::path& file, Frame start, int rate);

  bool isThere() const { return channels_ > 0; }
  /// Adds the frames from session frame `at` on, times `gain`.
  void add(Frame at, Frame frames, float gain, HeardBlock& block);

 private:
  void convert(int rate);
  void read(Frame from, Frame frames);

  Frame start_;
  int channels_ = 0;
  std::unique_ptr<SoundFile> file_;  // at the session's rate
  std::vector<float> converted_;     // else: all of it, interleaved
  std::vector<float> interleaved_, planar_;
};

}  // namespace octaphon
