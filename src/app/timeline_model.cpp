#include "timeline_model.h"

#include <algorithm>
#include <numeric>

namespace octaphon::app {

TimelineModel::TimelineModel(std::shared_ptr<const Session> session)
    : session_(std::move(session)), tree_(*session_), tempo_(session_->tempo, session_->rate) {
  arrangeLanes();
  arrangeRegions();
  for (const Track& track : session_->tracks) {
    std::vector<IntervalIndex::Interval> intervals;
    for (std::size_t i = 0; i < track.clips.size(); ++i)
      intervals.push_back({track.clips[i].start, track.clips[i].end(), static_cast<std::uint32_t>(i)});
    clips_.emplace_back(std::move(intervals));
  }
}

void TimelineModel::arrangeLanes() {
  int top = 0;
  const auto add = [&](int track, int depth, int height) {
    lanes_.push_back({track, depth, top, height});
    top += height;
  };
  for (const int track : tree_.order()) {
    const bool group = session_->tracks[static_cast<std::size_t>(track)].isGroup;
    add(track, tree_.depth(track), group ? kGroupHeight : kTrackHeight);
  }
  add(TrackTree::kMain, 0, kTrackHeight);
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

int TimelineModel::inkOf(int track) const {
  for (; track != TrackTree::kMain; track = tree_.parent(track))
    if (const int ink = session_->tracks[static_cast<std::size_t>(track)].ink; ink != 0) return ink;
  return 0;
}

TileModel::TileModel(std::shared_ptr<const Sheet> sheet, std::size_t brief) : sheet_(std::move(sheet)) {
  if (brief >= sheet_->briefs.size()) return;
  const PlannedBrief& planned = sheet_->briefs[brief];
  std::map<int, std::vector<IntervalIndex::Interval>> intervals;
  for (std::size_t i = planned.firstRow; i < planned.firstRow + planned.rowCount; ++i) {
    const Row& row = sheet_->rows[i];
    intervals[planned.sources[row.source].track].push_back(
        {row.start, row.start + row.frames, static_cast<std::uint32_t>(i)});
  }
  for (auto& [track, list] : intervals) rows_.emplace(track, IntervalIndex(std::move(list)));
}

}  // namespace octaphon::app
