// Which clips sound in a span, and from where to where. The one place that decides it: planning,
// fingerprints, rendering and listening all ask here.
#pragma once

#include <cstdint>
#include <functional>
#include <optional>
#include <string>
#include <unordered_map>
#include <vector>

#include "base/interval_index.h"
#include "brief/brief.h"
#include "recipe/span.h"
#include "routing/track_tree.h"
#include "session/session.h"

namespace octaphon {

/// A clip as a span hears it. Sound outside [from, to) is cut.
struct HeardClip {
  Strip track;
  std::size_t clip;   ///< index in Track::clips
  Frame from;         ///< session frame, at or after the clip's start
  Frame to;           ///< session frame, at or before the clip's end
  Frame endFade = 0;  ///< frames before `to` in which it is faded out linearly, because it would have gone on
};

/// How clips count in a pass.
struct Counting {
  Counts counts = Counts::EverythingHeard;
  Crossing crossing = Crossing::LeftOut;
  Frame endFade = 0;  ///< frames
  Frame runUp = 0;    ///< frames before the span that are processed too, under EverythingHeard
  auto operator<=>(const Counting&) const = default;
};
Counting countingOf(const Brief& brief, const PlannedSpan& span, int rate);

/// Where clips that go on are cut in a span: its end, or later.
Frame lastHeard(const PlannedSpan& span, const Counting& counting);

/// All clips of a session that are not muted, ready to be asked. Keeps a reference to the session and its
/// tree.
class ClipFinder {
 public:
  ClipFinder(const Session& session, const TrackTree& tree);

  /// Clips on tracks that are not muted, helpers included, in track order, then by start, then by place on
  /// the track; in a clip set its own clips and those of helpers only. With a run-up also what sounds in it,
  /// where the session has effects that could remember it.
  std::vector<HeardClip> heardIn(const PlannedSpan& span, const Counting& counting) const;

  /// Clips that begin before the span and reach into it, whatever the counting; of a clip set its own only.
  std::vector<HeardClip> crossingInto(const PlannedSpan& span) const;

  /// Clips that begin in the span of a clip set and are in no clip set of the session.
  std::vector<HeardClip> inNoSet(const PlannedSpan& span) const;

  /// By the rule of SetExtent.
  std::optional<TimeSpan> extentOf(const ClipSet& set) const;

  /// Frames in front of a span's first one that a pass has to process: its context, and what it is run up to
  /// for.
  Frame runUpOf(const PlannedSpan& span, const Counting& counting) const;

  const Session& session() const { return session_; }
  const TrackTree& tree() const { return tree_; }
  const Clip& clipOf(const HeardClip& heard) const { return clipAt({heard.track, heard.clip}); }

 private:
  struct Place {
    Strip track;
    std::size_t clip;
  };
  const Clip& clipAt(const Place& place) const {
    return session_.tracks[place.track.track()].clips[place.clip];
  }
  using Visit = std::function<void(const Place& place, const Clip& clip)>;
  void forEachIn(const PlannedSpan& span, TimeSpan stretch, const Visit& visit) const;
  void collectSets();

  const Session& session_;
  const TrackTree& tree_;
  std::vector<Place> places_;
  IntervalIndex index_;
  std::unordered_map<std::string_view, std::uint32_t> placeOfClip_;      // by id, where something asks for it
  std::unordered_map<std::string, std::vector<std::uint32_t>> members_;  // by clip set: places
  std::vector<char> inSomeSet_;                                          // by place
  std::vector<std::uint32_t> helpers_;                                   // places on helper tracks
  bool hasEffects_ = false;
};

}  // namespace octaphon
