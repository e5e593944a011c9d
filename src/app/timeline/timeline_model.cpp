#include "app/timeline/timeline_model.h"

#include <algorithm>
#include <numeric>
#include <unordered_map>

#include "routing/inheritance.h"
#include "routing/set_extent.h"

namespace octaphon::app {

TimelineModel::TimelineModel(std::shared_ptr<const Session> session, const std::vector<char>& shown)
    : session_(std::move(session)), tree_(*session_), tempo_(session_->tempo, session_->rate) {
  arrangeLanes(shown);
  arrangeRegions();
  arrangeMarkers();
  arrangeClipSets();
  for (const Track& track : session_->tracks) {
    std::vector<IntervalIndex::Interval> intervals;
    for (std::size_t i = 0; i < track.clips.size(); ++i)
      intervals.push_back({track.clips[i].start, track.clips[i].end(), static_cast<std::uint32_t>(i)});
    clips_.emplace_back(std::move(intervals));
  }
}

void TimelineModel::arrangeLanes(const std::vector<char>& shown) {
  std::vector<char> seen(session_->tracks.size(), shown.empty());
  for (std::size_t i = 0; i < shown.size(); ++i)
    if (shown[i] != 0)
      for (Strip up(i); !up.isMain(); up = tree_.parent(up)) seen[up.track()] = 1;
  int top = 0;
  int pinnedTop = 0;
  const auto add = [&](Strip track, int depth, int height) {
    lanes_.push_back({track, depth, top, height});
    top += height;
  };
  for (const Strip track : tree_.order()) {
    const Track& t = session_->tracks[track.track()];
    const int height = t.isGroup() ? kGroupHeight : kTrackHeight;
    if (t.pinned) {
      pinned_.push_back({track, 0, pinnedTop, height, true});
      pinnedTop += height;
    } else if (seen[track.track()] != 0) {
      add(track, tree_.depth(track), height);
    }
  }
  add(Strip::main(), 0, kTrackHeight);
}

void TimelineModel::arrangeMarkers() {
  std::vector<IntervalIndex::Interval> intervals;
  for (const MarkerSet& set : session_->markerSets)
    for (const Marker& marker : set.markers) {
      intervals.push_back({marker.at, marker.at + 1, static_cast<std::uint32_t>(markers_.size())});
      markers_.push_back(&marker);
      markerSets_.push_back(&set);
    }
  markerIndex_ = IntervalIndex(std::move(intervals));
}

void TimelineModel::arrangeClipSets() {
  if (session_->clipSets.empty()) return;
  std::unordered_map<std::string_view, ClipSpot> spots;
  for (std::size_t t = 0; t < session_->tracks.size(); ++t)
    for (std::size_t c = 0; c < session_->tracks[t].clips.size(); ++c)
      spots.emplace(session_->tracks[t].clips[c].id, ClipSpot{Strip(t), c});
  for (const ClipSet& set : session_->clipSets) {
    std::vector<ClipSpot> members;
    for (const std::string& id : set.clips)
      if (const auto found = spots.find(id); found != spots.end()) members.push_back(found->second);
    std::stable_sort(members.begin(), members.end(),
                     [&](ClipSpot a, ClipSpot b) { return clipAt(a).start < clipAt(b).start; });
    SetExtent extent(tree_);
    Frame end = 0;
    for (const ClipSpot spot : members) {
      extent.add(spot.track, clipAt(spot));
      end = std::max(end, clipAt(spot).end());
    }
    // One whose clips are all muted is still to be seen.
    const Frame start = members.empty() ? 0 : clipAt(members.front()).start;
    extents_.push_back(extent.of(set).value_or(TimeSpan{start, std::max(start, end) - start}));
    members_.push_back(std::move(members));
  }
}

void TimelineModel::arrangeRegions() {
  const auto& regions = session_->regions;
  std::vector<std::size_t> byStart(regions.size());
  std::iota(byStart.begin(), byStart.end(), 0);
  std::stable_sort(byStart.begin(), byStart.end(),
                   [&](std::size_t a, std::size_t b) { return regions[a].start < regions[b].start; });
  std::vector<Frame> ends;
  laneOfRegion_.resize(regions.size());
  std::vector<IntervalIndex::Interval> intervals;
  for (const std::size_t i : byStart) {
    intervals.push_back({regions[i].start, regions[i].end(), static_cast<std::uint32_t>(i)});
    auto lane = std::find_if(ends.begin(), ends.end(), [&](Frame end) { return end <= regions[i].start; });
    if (lane == ends.end() && ends.size() < kMostRegionLanes) lane = ends.insert(ends.end(), 0);
    if (lane == ends.end()) --lane;
    *lane = std::max(*lane, regions[i].end());
    laneOfRegion_[i] = static_cast<int>(lane - ends.begin());
  }
  regionLanes_ = std::max(1, static_cast<int>(ends.size()));
  regions_ = IntervalIndex(std::move(intervals));
}

std::size_t TimelineModel::laneAt(int y) const {
  const auto found = std::partition_point(lanes_.begin(), lanes_.end(),
                                          [&](const Lane& lane) { return lane.top + lane.height <= y; });
  return static_cast<std::size_t>(found - lanes_.begin());
}

int TimelineModel::inkOf(Strip track) const { return octaphon::inkOf(*session_, tree_, track); }

TileModel::TileModel(std::shared_ptr<const Sheet> sheet, std::size_t brief)
    : sheet_(std::move(sheet)), brief_(brief) {
  if (brief >= sheet_->briefs.size()) return;
  const PlannedBrief& planned = sheet_->briefs[brief];
  std::map<Strip, std::vector<IntervalIndex::Interval>> intervals;
  for (std::size_t i = planned.firstRow; i < planned.firstRow + planned.rowCount; ++i) {
    const Row& row = sheet_->rows[i];
    intervals[sheet_->sourceOf(row).track].push_back(
        {row.start, sheet_->shownEndOf(row), static_cast<std::uint32_t>(i)});
  }
  for (auto& [track, list] : intervals) rows_.emplace(track, IntervalIndex(std::move(list)));
}

}  // namespace octaphon::app
