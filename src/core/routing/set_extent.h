// The one rule for the time that a clip set takes.
#pragma once

#include <algorithm>
#include <optional>

#include "routing/track_tree.h"
#include "session/session.h"

namespace octaphon {

/// As set by hand; else from the first to the last of its clips that could sound: not muted, nor their
/// tracks, and on no helper.
class SetExtent {
 public:
  explicit SetExtent(const TrackTree& tree) : tree_(tree) {}

  /// A clip of the set.
  void add(Strip track, const Clip& clip) {
    if (clip.mute || clip.length == 0 || tree_.isMuted(track) || tree_.isHelper(track)) return;
    start_ = std::min(start_, clip.start);
    end_ = std::max(end_, clip.end());
  }

  /// Nothing where it has neither.
  std::optional<TimeSpan> of(const ClipSet& set) const {
    if (set.span) return set.span;
    return end_ < 0 ? std::nullopt : std::optional(TimeSpan{start_, end_ - start_});
  }

 private:
  const TrackTree& tree_;
  Frame start_ = kMaxFrame;
  Frame end_ = -1;
};

}  // namespace octaphon
