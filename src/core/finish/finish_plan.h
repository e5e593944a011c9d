// What a file asks of its sound, from its tap to its samples.
#pragma once

#include <optional>
#include <string>

#include "base/extent.h"
#include "base/fade_shape.h"
#include "finish/round.h"

namespace octaphon {

/// A fade at one end of a file, in its frames.
struct EdgeFade {
  Frame frames = 0;
  FadeShape shape = FadeShape::Linear;
};

struct FinishPlan {
  int tapped = 2;     ///< channels where it is taken off
  Frame latency = 0;  ///< frames that the tap lies behind the session
  ExtentPlan extent;
  Frame tail = 0;         ///< frames of the session; of one that is decided on the way, the most
  bool isDecided = true;  ///< the tail's length is known; else FinishChain::decide() says it
  /// Frames of the session that come before the file's first one and after its last: what a converter needs
  /// to hear. `before` are given; what is missing of `context` there is silence.
  Frame context = 0, before = 0;
  std::optional<double> trimDb;  ///< dBFS
  EdgeFade fadeIn, fadeOut;
  SampleForm form;
};

/// What is known of a sound when it has gone through.
struct SoundFacts {
  Frame tail = 0;  ///< frames of the session; the most as long as it is not decided
  Kept kept = {};
  bool isCut = false;  ///< the exact length ended it
  float cutLevel = 0;  ///< largest magnitude in the last 10 ms before that
  double offset = 0;   ///< largest mean of a channel of the file, full scale 1
};

}  // namespace octaphon
