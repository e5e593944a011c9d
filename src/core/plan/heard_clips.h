// Which clips sound in a span, and from where to where. The one place that decides it: planning,
// fingerprints, rendering and listening all ask here.
#pragma once

#include <cstdint>
#include <vector>

#include "base/interval_index.h"
#include "brief/brief.h"
#include "plan/sheet.h"
#include "routing/track_tree.h"
#include "session/session.h"

namespace octaphon {

/// A clip as a span hears it. Sound outside [from, to) is cut.
struct HeardClip {
  int track;          ///< index in Session::tracks
  int clip;           ///< index in Track::clips
  Frame from;         ///< session frame, at or after the clip's start
  Frame to;           ///< session frame, at or before the clip's end
  Frame endFade = 0;  ///< frames before `to` in which it is faded out linearly, because it would have gone on
};

/// How clips count in a pass.
struct Counting {
  Counts counts = Counts::EverythingHeard;
  Crossing crossing = Crossing::LeftOut;
  Frame endFade = 0;  ///< frames
  auto operator<=>(const Counting&) const = default;
};
Counting countingOf(const Brief& brief, int rate);

/// All clips of a session that are not muted, ready to be asked. Keeps a reference to the session and its
/// tree.
class ClipFinder {
 public:
  ClipFinder(const Session& session, const TrackTree& tree);

  /// Clips on tracks that are not muted, in track order, then by start, then by place on the track.
  std::vector<HeardClip> heardIn(const PlannedSpan& span, const Counting& counting) const;

  /// Clips that begin before the span and reach into it, whatever the counting.
  std::vector<HeardClip> crossingInto(const PlannedSpan& span) const;

  const Session& session() const { return session_; }
  const TrackTree& tree() const { return tree_; }
  const Clip& clipOf(const HeardClip& heard) const {
    return session_.tracks[static_cast<std::size_t>(heard.track)].clips[static_cast<std::size_t>(heard.clip)];
  }

 private:
  struct Place {
    int track;
    int clip;
  };
  const Session& session_;
  const TrackTree& tree_;
  std::vector<Place> places_;
  IntervalIndex index_;
};

}  // namespace octaphon
