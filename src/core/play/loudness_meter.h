// Loudness while listening, through libebur128 (ITU-R BS.1770, EBU R 128). One thread feeds it, any may read
// it.
#pragma once

#include <atomic>
#include <memory>

#include "base/frames.h"

namespace octaphon {

/// LUFS; kNoLoudness where there is too little sound yet.
struct Loudness {
  double momentary, integrated;
};
inline constexpr double kNoLoudness = -200;

class LoudnessMeter {
 public:
  explicit LoudnessMeter(int rate);
  ~LoudnessMeter();
  LoudnessMeter(const LoudnessMeter&) = delete;
  LoudnessMeter& operator=(const LoudnessMeter&) = delete;

  /// Interleaved stereo, full scale ±1. Does not allocate.
  void add(const float* stereo, Frame frames);
  Loudness now() const { return {momentary_, integrated_}; }

 private:
  struct Meter;
  std::unique_ptr<Meter> meter_;
  Frame since_ = 0;  // frames since it was last asked
  Frame step_;
  std::atomic<double> momentary_{kNoLoudness}, integrated_{kNoLoudness};
};

}  // namespace octaphon
