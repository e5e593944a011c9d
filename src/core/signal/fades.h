// Gains of clips over time. All are closed functions of the frame, so that blocks of any size give the same.
#pragma once

#include "base/fade_shape.h"
#include "base/frames.h"
#include "recipe/heard_clips.h"
#include "session/session.h"

namespace octaphon {

/// What a clip's samples are multiplied with. Frames are counted in the session.
///   fade in of N frames, c frames after the clip's start, c < N:   shape(c / N)
///   fade out of N frames, c frames before the clip's end, c ≤ N:   shape(c / N)
///   end fade of N frames, c frames before `to`, c ≤ N:             c / N
class ClipEnvelope {
 public:
  ClipEnvelope(const Clip& clip, const HeardClip& heard);

  double at(Frame frame) const;
  /// Whether the gain is constant over [from, to); then it is gain().
  bool isConstant(Frame from, Frame to) const;
  double gain() const { return gain_; }

 private:
  double gain_;
  Fade in_, out_;
  Frame start_, end_, cut_, endFade_;
};

}  // namespace octaphon
