// Listens to what is written, for the seam of its loop: a sink between the last stage and the encoder.
#pragma once

#include <vector>

#include "finish/sample_sink.h"
#include "loop/seam.h"

namespace octaphon {

class WrittenLoop : public SampleSink {
 public:
  /// `bits` of whole numbers. The loop begins `start` frames after the file's first one and goes on to its
  /// end; with a `length`, sound may come before and after it, and is heard with it, as a player lets them
  /// overlap.
  WrittenLoop(SampleSink& next, int rate, int channels, int bits, Frame start, Frame length = 0)
      : next_(next), scale_(1.0f / static_cast<float>(1u << (bits - 1))), start_(start), length_(length) {
    sound_.rate = rate;
    each_ = static_cast<std::size_t>(framesOf(kSeamSeconds, rate));
    sound_.channels.resize(static_cast<std::size_t>(channels));
  }

  Result<> write(const std::int32_t* const* channels, Frame frames) override;
  Result<> write(const float* const* channels, Frame frames) override;

  /// One lap as it sounds: as much of it as a seam is judged by.
  Lap lap() const;

 private:
  template <class Sample>
  void keep(const Sample* const* channels, Frame frames, float scale);
  template <class Sample>
  void keepOf(std::size_t channel, const Sample* samples, Frame at, Frame frames, float scale);

  SampleSink& next_;
  float scale_;
  Frame start_, length_;
  std::size_t each_;  // frames of beginning and end that are kept
  Frame taken_ = 0;
  Lap sound_;  // all of it; of a loop that goes on to the end, its beginning and behind it, round and round,
               // its end so far
};

}  // namespace octaphon
