// Sound that is held back until it is known whether it belongs to the file. First in, first out.
#pragma once

#include <cstdio>
#include <deque>
#include <memory>

#include "finish/spool.h"
#include "finish/stage.h"

namespace octaphon {

/// What is more than kMostBytes goes to a file without a name; silence takes no room. DiskFull where that
/// cannot be written.
class HeldSound {
 public:
  static constexpr std::size_t kMostBytes = 32u << 20;

  /// `spool`, where it is there, gives memory and takes the rest.
  explicit HeldSound(int channels, Spool* spool = nullptr) : channels_(channels), spool_(spool) {}
  ~HeldSound() { clear(); }
  HeldSound(const HeldSound&) = delete;
  HeldSound& operator=(const HeldSound&) = delete;

  Frame frames() const { return frames_; }
  Result<> add(const SoundBlock& block, Frame from, Frame count);
  /// Hands on the first `count` frames, at most what is held.
  Result<> giveTo(Stage& next, Frame count);
  /// Shows all that is held, and keeps it.
  Result<> showTo(Stage& next);
  void clear();

 private:
  struct Part {
    Frame frames = 0;
    bool isSilent = false;
    std::int64_t place = -1;       // in the file; under 0: here
    float* piece = nullptr;        // of the spool's memory, planar; else
    std::unique_ptr<float[]> own;  // the same
    Frame room = 0;                // frames that there is room for
    Frame given = 0;               // frames that were handed on already

    float* samples() const { return piece != nullptr ? piece : own.get(); }
  };
  struct Close {
    void operator()(std::FILE* file) const { std::fclose(file); }
  };
  std::size_t samplesOf(const Part& part) const { return static_cast<std::size_t>(channels_ * part.frames); }
  std::size_t bytesOf(const Part& part) const { return samplesOf(part) * sizeof(float); }
  Part& partFor(Frame frames);
  void makeOwn(Part& part, Frame frames);
  bool mayStay(const Part& part) const;
  Result<> spillToSystem(Part& part);
  void free(Part& part);
  Result<> spill(Part& part);
  Result<> fetch(Part& part);
  Result<> read(const Part& part, float* to);
  Result<> give(const Part& part, const float* samples, Frame from, Frame count, Stage& next) const;

  int channels_;
  Spool* spool_;
  Frame frames_ = 0;
  std::size_t bytes_ = 0;  // in memory of its own
  std::deque<Part> parts_;
  std::unique_ptr<std::FILE, Close> file_;
};

}  // namespace octaphon
