// What may be wrong with the sound of a span: each remark belongs to a track and shows on every row that
// hears it.
#pragma once

#include <deque>
#include <set>
#include <utility>
#include <vector>

#include "base/remark.h"
#include "media/media_facts.h"
#include "recipe/heard_clips.h"

namespace octaphon {

struct TrackRemark {
  Strip track;
  Remark remark;
};

/// About the clips of one span: those that cross the start, begin just before the end or are cut off with the
/// tail. One remark of a kind for each track and clip.
std::vector<TrackRemark> spanRemarks(const ClipFinder& finder, const PlannedSpan& span,
                                     const Counting& counting, const std::vector<HeardClip>& heard);

struct ClipRemark {
  std::size_t clip;  ///< index in what is heard
  Remark remark;
};

/// About the media of the clips of one span: missing, damaged, not what the session knows, too short, of
/// other channels. They are for whoever hears the clip, on whatever way.
std::vector<ClipRemark> mediaRemarks(const ClipFinder& finder, const MediaFacts& facts,
                                     const std::vector<HeardClip>& heard);

/// Finds spans of one brief that overlap, neither holding the other, and share clips. Clip sets may overlap
/// and never do. Spans come in the order of the sheet; only the latest kMost that may still overlap are
/// remembered.
class SharedClips {
 public:
  static constexpr std::size_t kMost = 64;

  /// What the span shares with the latest one before it that it shares anything with; a remark for each
  /// track.
  std::vector<TrackRemark> add(const PlannedSpan& span, const std::vector<HeardClip>& heard);

 private:
  struct Earlier {
    PlannedSpan span;
    std::set<std::pair<Strip, std::size_t>> clips;  // track and clip
  };
  std::deque<Earlier> earlier_;
};

}  // namespace octaphon
