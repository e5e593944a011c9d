#include "signal/fades.h"

#include "base/decibels.h"

namespace octaphon {
namespace {

double ratio(Frame part, Frame whole) { return static_cast<double>(part) / static_cast<double>(whole); }

}  // namespace

ClipEnvelope::ClipEnvelope(const Clip& clip, const HeardClip& heard)
    : gain_(gainOf(clip.gainDb)),
      in_(clip.fadeIn),
      out_(clip.fadeOut),
      start_(clip.start),
      end_(clip.end()),
      cut_(heard.to),
      endFade_(heard.endFade) {}

double ClipEnvelope::at(Frame frame) const {
  double gain = gain_;
  if (frame < start_ + in_.length) gain *= fadeGain(in_.shape, ratio(frame - start_, in_.length));
  if (frame > end_ - out_.length) gain *= fadeGain(out_.shape, ratio(end_ - frame, out_.length));
  if (frame > cut_ - endFade_) gain *= ratio(cut_ - frame, endFade_);
  return gain;
}

bool ClipEnvelope::isConstant(Frame from, Frame to) const {
  return from >= start_ + in_.length && to - 1 <= end_ - out_.length && to - 1 <= cut_ - endFade_;
}

}  // namespace octaphon
