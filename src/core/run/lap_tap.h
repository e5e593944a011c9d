// The sound of a tap over a span, from the first frame that counts on, kept while it is played.
#pragma once

#include "loop/lap.h"
#include "signal/graph.h"

namespace octaphon {

class LapTap {
 public:
  /// `tap` of the source; so many frames are kept.
  LapTap(std::size_t tap, int channels, int rate, Frame frames) : tap_(tap), frames_(frames) {
    heard_.rate = rate;
    heard_.channels.resize(static_cast<std::size_t>(channels));
  }

  /// Once, before the first block.
  void begin(const TapSource& source) { skipped_ = latency_ = source.latency(tap_); }
  /// The block that starts `at` frames after the first one that counts.
  void take(const TapSource& source, Frame at, Frame frames);
  /// Frames from the first one that counts which have to be given, latency included.
  Frame framesWanted() const { return frames_ + latency_; }
  const Lap& heard() const { return heard_; }

 private:
  std::size_t tap_;
  Frame frames_;
  Frame latency_ = 0, skipped_ = 0;
  Lap heard_;
};

}  // namespace octaphon
