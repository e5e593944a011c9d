// The parts of a file, and how they come from frames of the session: rate, trimming, silence, whole picture
// frames, exact length, in this order. Planning and writing both ask here, so that they cannot disagree.
#pragma once

#include <optional>

#include "base/frames.h"
#include "base/timecode.h"

namespace octaphon {

/// In frames at the file's rate. Silence that was added counts where it lies.
struct Extent {
  Frame start = 0;  ///< of the first frame, from the session's frame 0; may be before it
  Frame leadIn = 0, body = 0, tail = 0;
  bool operator==(const Extent&) const = default;
  Frame frames() const { return leadIn + body + tail; }
};

/// What trimming leaves, in frames from the sound's first one, at the file's rate.
struct Kept {
  Frame from = 0;
  Frame to = kMaxFrame;
  bool operator==(const Kept&) const = default;
};

/// How the parts of one file come about.
struct ExtentPlan {
  int sessionRate = 48000, rate = 48000;  ///< Hz
  Frame first = 0;                        ///< the sound's first frame in the session; may be before 0
  Frame leadIn = 0, body = 0;             ///< in frames of the session
  Frame silence = 0;                      ///< after the tail, in frames of the file
  Frame exact = 0;                        ///< of the whole file, in its frames; 0: as it comes
  bool isLoop = false;                    ///< a lap: it has no tail, and its length is rounded for itself
  std::optional<PictureRate> picture;     ///< ends are moved out to whole picture frames

  /// Frames of the file that so much sound has, from its first frame on.
  Frame soundFrames(Frame tail) const {
    return isLoop ? bodyEnd() : atRate(leadIn + body + tail, sessionRate, rate);
  }
  /// Where the body ends: it has one length wherever it lies.
  Frame bodyEnd() const { return atRate(leadIn, sessionRate, rate) + atRate(body, sessionRate, rate); }
};

/// `tail` in frames of the session. Boundaries between parts are rounded, never the length of the sound.
Extent extentOf(const ExtentPlan& plan, Frame tail, const Kept& kept = {});

/// Frames of silence before the sound, that moving the start out adds.
Frame silenceBefore(const ExtentPlan& plan, const Kept& kept);

/// The frame of the session that a file begins at.
Frame sessionStart(const ExtentPlan& plan, const Extent& extent);

/// Frames at the file's rate from midnight to frame 0 of a session of this start timecode, plus `start`. What
/// lies before midnight comes out as late the day before.
Frame timeReference(Frame startPicture, const PictureRate& picture, int rate, Frame start);

}  // namespace octaphon
