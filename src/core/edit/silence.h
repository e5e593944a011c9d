// Sound between silences, in a long recording.
#pragma once

#include <atomic>
#include <vector>

#include "base/frames.h"
#include "base/result.h"
#include "media/readable_media.h"
#include "session/session.h"

namespace octaphon {

/// Fed with frames in order. A frame is silent where every channel is below the threshold; a run of silent
/// frames of at least the shortest silence parts what lies on both sides. Exact to the frame: sounds begin
/// with their first loud frame and end after their last.
class SoundFinder {
 public:
  /// `threshold` is a factor of full scale over 0; `shortest` in frames, 1 at least.
  SoundFinder(double threshold, Frame shortest) : threshold_(threshold), shortest_(shortest) {}

  void add(const float* interleaved, int channels, Frame frames);
  /// All sounds, in order, counted from the first frame added.
  std::vector<TimeSpan> finish();

 private:
  void close();
  double threshold_;
  Frame shortest_;
  Frame at_ = 0;
  Frame begin_ = -1;    // of the sound that is open; −1: none
  Frame lastLoud_ = 0;  // one past the latest loud frame
  std::vector<TimeSpan> sounds_;
};

/// Sounds of one clip, as stretches of the session, gain and fades not counted. Cancelled where `cancel` is
/// set.
Result<std::vector<TimeSpan>> soundsOf(const Clip& clip, const ReadableMedia& media, double threshold,
                                       Frame shortest, const std::atomic<bool>* cancel = nullptr);

}  // namespace octaphon
