// What the timeline draws, arranged once for each session and sheet so that painting looks only at what is
// visible.
#pragma once

#include <map>
#include <memory>
#include <vector>

#include "base/interval_index.h"
#include "plan/sheet.h"
#include "routing/track_tree.h"
#include "session/session.h"

namespace octaphon::app {

struct Lane {
  Strip track;
  int depth;
  int top;  ///< px below the first lane
  int height;
  bool pinned = false;  ///< stays in view, above the lanes that scroll; `top` counts from the first of them
};

/// Where a clip is.
struct ClipSpot {
  Strip track;
  std::size_t clip;
};

class TimelineModel {
 public:
  static constexpr int kGroupHeight = 28;
  static constexpr int kTrackHeight = 36;
  static constexpr int kMostRegionLanes = 3;

  /// Only tracks for which `shown` holds (all where it is empty), pinned ones and the groups around them.
  /// What a session shares with the one `before` is not arranged anew; null: there was none.
  explicit TimelineModel(std::shared_ptr<const Session> session, const std::vector<char>& shown = {},
                         const TimelineModel* before = nullptr);

  const Session& session() const { return *session_; }
  Frame end() const { return end_; }  ///< of the last thing in it
  const TrackTree& tree() const { return tree_; }
  const TempoMap& tempo() const { return tempo_; }
  const std::vector<Lane>& lanes() const { return lanes_; }
  int height() const { return lanes_.back().top + lanes_.back().height; }
  const std::vector<Lane>& pinned() const { return pinned_; }
  int pinnedHeight() const { return pinned_.empty() ? 0 : pinned_.back().top + pinned_.back().height; }
  /// First lane that reaches below `y`, and so on; an index into lanes().
  std::size_t laneAt(int y) const;

  /// Lanes of region ribbons, 1 … kMostRegionLanes; what would need more shares the last.
  int regionLanes() const { return regions_->lanes; }
  int regionLane(std::size_t region) const { return regions_->laneOf[region]; }

  template <class Visit>
  void clipsIn(Strip track, Frame from, Frame to, Visit&& visit) const {
    if (!track.isMain()) clips_[track.track()]->index.overlapping(from, to, visit);
  }
  template <class Visit>
  void regionsIn(Frame from, Frame to, Visit&& visit) const {
    regions_->index.overlapping(from, to, visit);
  }

  template <class Visit>
  void markersIn(Frame from, Frame to, Visit&& visit) const {
    markerIndex_.overlapping(from, to, visit);
  }
  bool hasMarkers() const { return !markers_.empty(); }
  const Marker& marker(std::size_t index) const { return *markers_[index]; }
  const MarkerSet& setOfMarker(std::size_t index) const { return *markerSets_[index]; }

  /// Clips of a clip set that are there, by start; its time as it counts.
  const std::vector<ClipSpot>& membersOf(std::size_t clipSet) const { return sets_->members[clipSet]; }
  TimeSpan extentOf(std::size_t clipSet) const { return sets_->extents[clipSet]; }
  const Clip& clipAt(ClipSpot spot) const { return session_->tracks[spot.track.track()].clips[spot.clip]; }

  /// The ink of a track, its group's where it has none.
  int inkOf(Strip track) const;

 private:
  struct Clips {
    IntervalIndex index;
    Frame end = 0;
  };
  struct Regions {
    IntervalIndex index;
    std::vector<int> laneOf;
    int lanes = 1;
  };
  struct Sets {
    std::vector<std::vector<ClipSpot>> members;
    std::vector<TimeSpan> extents;
  };
  void arrangeLanes(const std::vector<char>& shown);
  void arrangeMarkers();
  void arrangeClips(const TimelineModel* before);
  bool hasTracksOf(const TimelineModel& before) const;
  std::shared_ptr<const Sets> arrangedSets() const;
  std::shared_ptr<const Regions> arrangedRegions() const;

  std::shared_ptr<const Session> session_;
  TrackTree tree_;
  TempoMap tempo_;
  std::vector<Lane> lanes_, pinned_;
  std::vector<const Marker*> markers_;
  std::vector<const MarkerSet*> markerSets_;  // of each marker
  IntervalIndex markerIndex_;
  std::vector<std::shared_ptr<const Clips>> clips_;  // by track
  Frame end_ = 0;
  std::shared_ptr<const Sets> sets_;
  std::shared_ptr<const Regions> regions_;
};

/// Rows of one brief by the track they are drawn on.
class TileModel {
 public:
  TileModel() = default;
  TileModel(std::shared_ptr<const Sheet> sheet, std::size_t brief);

  const Sheet* sheet() const { return sheet_.get(); }
  std::size_t brief() const { return brief_; }
  RowState stateOf(std::size_t row) const { return states_[row - firstRow_]; }
  template <class Visit>
  void tilesIn(Strip track, Frame from, Frame to, Visit&& visit) const {
    const auto found = rows_.find(track);
    if (found != rows_.end()) found->second.overlapping(from, to, visit);
  }

 private:
  std::shared_ptr<const Sheet> sheet_;
  std::size_t brief_ = 0;
  std::map<Strip, IntervalIndex> rows_;
  std::size_t firstRow_ = 0;
  std::vector<RowState> states_;  // close together: of narrow tiles nothing else is looked at
};

}  // namespace octaphon::app
