// Sound that is held back until it is known whether it belongs to the file. First in, first out.
#pragma once

#include <cstdio>
#include <deque>
#include <memory>

#include "finish/stage.h"

namespace octaphon {

/// What is more than kMostBytes goes to a file without a name; silence takes no room. DiskFull where that
/// cannot be written.
class HeldSound {
 public:
  static constexpr std::size_t kMostBytes = 32u << 20;

  explicit HeldSound(int channels) : channels_(channels) {}

  Frame frames() const { return frames_; }
  Result<> add(const SoundBlock& block, Frame from, Frame count);
  /// Hands on the first `count` frames, at most what is held.
  Result<> giveTo(Stage& next, Frame count);
  void clear();

 private:
  struct Part {
    Frame frames = 0;
    bool isSilent = false;
    long place = -1;                   // in the file; under 0: here
    std::unique_ptr<float[]> samples;  // planar
    Frame given = 0;                   // frames that were handed on already
  };
  struct Close {
    void operator()(std::FILE* file) const { std::fclose(file); }
  };
  std::size_t samplesOf(const Part& part) const { return static_cast<std::size_t>(channels_ * part.frames); }
  void makeRoom(Part& part);
  void free(Part& part);
  Result<> spill(Part& part);
  Result<> fetch(Part& part);

  int channels_;
  Frame frames_ = 0;
  std::size_t bytes_ = 0;  // in memory
  std::deque<Part> parts_;
  std::unique_ptr<std::FILE, Close> file_;
};

}  // namespace octaphon
