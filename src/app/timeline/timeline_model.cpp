#include "app/timeline/timeline_model.h"

#include <algorithm>
#include <numeric>
#include <unordered_map>

#include "base/in_parallel.h"
#include "routing/inheritance.h"
#include "routing/set_extent.h"

namespace octaphon::app {

TimelineModel::TimelineModel(std::shared_ptr<const Session> session, const std::vector<char>& shown,
                             const TimelineModel* before)
    : session_(std::move(session)), tree_(*session_), tempo_(session_->tempo, session_->rate) {
  arrangeLanes(shown);
  arrangeMarkers();
  arrangeClips(before);
  const bool keepsRegions = before != nullptr && session_->regions.isSharedWith(before->session_->regions);
  regions_ = keepsRegions ? before->regions_ : arrangedRegions();
  const bool keepsSets = before != nullptr && session_->clipSets.isSharedWith(before->session_->clipSets) &&
                         hasTracksOf(*before);
  sets_ = keepsSets ? before->sets_ : arrangedSets();
  for (const auto& clips : clips_) end_ = std::max(end_, clips->end);
  for (const Region& region : session_->regions) end_ = std::max(end_, region.end());
  for (const ClipSet& set : session_->clipSets)
    if (set.span) end_ = std::max(end_, set.span->end());
}

/// Where clips are and whether they are heard.
bool TimelineModel::hasTracksOf(const TimelineModel& before) const {
  const std::vector<Track>&a = session_->tracks, &b = before.session_->tracks;
  return std::equal(a.begin(), a.end(), b.begin(), b.end(), [](const Track& now, const Track& then) {
    return now.id == then.id && now.group == then.group && now.mute == then.mute &&
           now.helper == then.helper && now.clips.isSharedWith(then.clips);
  });
}

void TimelineModel::arrangeClips(const TimelineModel* before) {
  const std::vector<Track>& tracks = session_->tracks;
  clips_.resize(tracks.size());
  inParallel(tracks.size(), [&](std::size_t t) {
    const SharedList<Clip>& clips = tracks[t].clips;
    if (before != nullptr && t < before->clips_.size() &&
        clips.isSharedWith(before->session_->tracks[t].clips)) {
      clips_[t] = before->clips_[t];
      return;
    }
    auto arranged = std::make_shared<Clips>();
    std::vector<IntervalIndex::Interval> intervals;
    for (std::size_t i = 0; i < clips.size(); ++i) {
      intervals.push_back({clips[i].start, clips[i].end(), static_cast<std::uint32_t>(i)});
      arranged->end = std::max(arranged->end, clips[i].end());
    }
    arranged->index = IntervalIndex(std::move(intervals));
    clips_[t] = std::move(arranged);
  });
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

std::shared_ptr<const TimelineModel::Sets> TimelineModel::arrangedSets() const {
  auto sets = std::make_shared<Sets>();
  if (session_->clipSets.empty()) return sets;
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
    sets->extents.push_back(extent.of(set).value_or(TimeSpan{start, std::max(start, end) - start}));
    sets->members.push_back(std::move(members));
  }
  return sets;
}

std::shared_ptr<const TimelineModel::Regions> TimelineModel::arrangedRegions() const {
  auto arranged = std::make_shared<Regions>();
  const std::vector<Region>& regions = session_->regions.all();
  std::vector<std::size_t> byStart(regions.size());
  std::iota(byStart.begin(), byStart.end(), 0);
  std::stable_sort(byStart.begin(), byStart.end(),
                   [&](std::size_t a, std::size_t b) { return regions[a].start < regions[b].start; });
  std::vector<Frame> ends;
  arranged->laneOf.resize(regions.size());
  std::vector<IntervalIndex::Interval> intervals;
  for (const std::size_t i : byStart) {
    intervals.push_back({regions[i].start, regions[i].end(), static_cast<std::uint32_t>(i)});
    auto lane = std::find_if(ends.begin(), ends.end(), [&](Frame end) { return end <= regions[i].start; });
    if (lane == ends.end() && ends.size() < kMostRegionLanes) lane = ends.insert(ends.end(), 0);
    if (lane == ends.end()) --lane;
    *lane = std::max(*lane, regions[i].end());
    arranged->laneOf[i] = static_cast<int>(lane - ends.begin());
  }
  arranged->lanes = std::max(1, static_cast<int>(ends.size()));
  arranged->index = IntervalIndex(std::move(intervals));
  return arranged;
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
  firstRow_ = planned.firstRow;
  std::map<Strip, std::vector<IntervalIndex::Interval>> intervals;
  std::vector<std::vector<IntervalIndex::Interval>*> bySource;
  for (const PlannedSource& source : planned.sources) bySource.push_back(&intervals[source.track]);
  for (std::size_t i = planned.firstRow; i < planned.firstRow + planned.rowCount; ++i) {
    const Row& row = sheet_->rows[i];
    bySource[sheet_->soundOf(row).source]->push_back(
        {row.start, sheet_->shownEndOf(row), static_cast<std::uint32_t>(i)});
    states_.push_back(row.state);
  }
  for (auto& [track, list] : intervals) rows_.emplace(track, IntervalIndex(std::move(list)));
}

}  // namespace octaphon::app
