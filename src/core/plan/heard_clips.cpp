#include "plan/heard_clips.h"

#include <algorithm>
#include <tuple>

namespace octaphon {

Counting countingOf(const Brief& brief, int rate) {
  return {brief.counts, brief.crossing, framesOf(brief.endFadeMs / 1000, rate)};
}

ClipFinder::ClipFinder(const Session& session, const TrackTree& tree) : session_(session), tree_(tree) {
  std::vector<IntervalIndex::Interval> intervals;
  for (const int track : tree.order()) {
    if (tree.isMuted(track)) continue;
    const auto& clips = session.tracks[static_cast<std::size_t>(track)].clips;
    for (std::size_t i = 0; i < clips.size(); ++i) {
      if (clips[i].mute || clips[i].length == 0) continue;
      intervals.push_back({clips[i].start, clips[i].end(), static_cast<std::uint32_t>(places_.size())});
      places_.push_back({track, static_cast<int>(i)});
    }
  }
  index_ = IntervalIndex(std::move(intervals));
}

std::vector<HeardClip> ClipFinder::heardIn(const PlannedSpan& span, const Counting& counting) const {
  std::vector<HeardClip> heard;
  const Frame end = span.start + span.length;
  const bool beginsHere = counting.counts == Counts::BeginsHere;
  index_.overlapping(span.start, end, [&](const IntervalIndex::Interval& found) {
    const Place place = places_[found.item];
    if (beginsHere && found.start < span.start && counting.crossing == Crossing::LeftOut) return;
    HeardClip clip{place.track, place.clip, std::max(found.start, span.start), found.end, 0};
    const bool goesOn = found.end > end;
    const bool mayFinish = beginsHere && span.finish;
    if (goesOn && !mayFinish) {
      clip.to = end;
      if (beginsHere) clip.endFade = std::min(counting.endFade, clip.to - span.start);
    }
    heard.push_back(clip);
  });
  std::stable_sort(heard.begin(), heard.end(), [&](const HeardClip& a, const HeardClip& b) {
    return std::tuple(tree_.place(a.track), clipOf(a).start, a.clip) <
           std::tuple(tree_.place(b.track), clipOf(b).start, b.clip);
  });
  return heard;
}

std::vector<HeardClip> ClipFinder::crossingInto(const PlannedSpan& span) const {
  std::vector<HeardClip> crossing;
  index_.overlapping(span.start, span.start + 1, [&](const IntervalIndex::Interval& found) {
    const Place place = places_[found.item];
    if (found.start < span.start) crossing.push_back({place.track, place.clip, span.start, found.end, 0});
  });
  return crossing;
}

}  // namespace octaphon
