#include "recipe/heard_clips.h"

#include <algorithm>
#include <tuple>

#include "routing/set_extent.h"

namespace octaphon {

Counting countingOf(const Brief& brief, const PlannedSpan& span, int rate) {
  if (span.loop.isLapAlone()) return {Counts::BeginsHere, Crossing::FromStart, 0, 0};
  Counting counting{brief.heard.counts, brief.heard.crossing, framesOf(brief.heard.endFadeMs / 1000, rate),
                    0};
  // Where only what begins here counts, nothing sounds before the span.
  if (span.loop.isFromRecording() && brief.heard.counts == Counts::BeginsHere)
    return {Counts::EverythingHeard, Crossing::LeftOut, 0, 0};
  if (brief.heard.counts == Counts::EverythingHeard)
    counting.runUp = brief.heard.runUp.fromStart ? kMaxFrame : framesOf(brief.heard.runUp.seconds, rate);
  return counting;
}

Frame lastHeard(const PlannedSpan& span, const Counting& counting) {
  if (span.loop.isLapAlone()) return kMaxFrame;
  if (counting.counts == Counts::BeginsHere) return span.asHeard || span.finish ? span.last() : span.end();
  return span.asHeard || span.tail == 0 ? span.last() + span.context : span.end();
}

ClipFinder::ClipFinder(const Session& session, const TrackTree& tree) : session_(session), tree_(tree) {
  std::vector<IntervalIndex::Interval> intervals;
  for (const Strip track : tree.order()) {
    hasEffects_ |= !session.tracks[track.track()].inserts.empty();
    if (tree.isMuted(track)) continue;
    const auto& clips = session.tracks[track.track()].clips;
    for (std::size_t i = 0; i < clips.size(); ++i) {
      if (clips[i].mute || clips[i].length == 0) continue;
      hasEffects_ |= !clips[i].inserts.empty();
      if (tree.isHelper(track)) helpers_.push_back(static_cast<std::uint32_t>(places_.size()));
      intervals.push_back({clips[i].start, clips[i].end(), static_cast<std::uint32_t>(places_.size())});
      places_.push_back({track, i});
    }
  }
  hasEffects_ |= !session.main.inserts.empty();
  index_ = IntervalIndex(std::move(intervals));
  const bool hasClipSpans = std::any_of(session.briefs.begin(), session.briefs.end(),
                                        [](const Brief& brief) { return !brief.where.clips.empty(); });
  if (session.clipSets.empty() && !hasClipSpans) return;
  for (std::size_t i = 0; i < places_.size(); ++i)
    placeOfClip_.emplace(clipAt(places_[i]).id, static_cast<std::uint32_t>(i));
  collectSets();
}

void ClipFinder::collectSets() {
  inSomeSet_.assign(places_.size(), 0);
  for (const ClipSet& set : session_.clipSets) {
    std::vector<std::uint32_t>& members = members_[set.id];
    for (const std::string& id : set.clips)
      if (const auto found = placeOfClip_.find(id); found != placeOfClip_.end()) {
        members.push_back(found->second);
        inSomeSet_[found->second] = 1;
      }
    std::sort(members.begin(), members.end());
    members.erase(std::unique(members.begin(), members.end()), members.end());
  }
}

/// Clips of the span that sound in a stretch of time.
void ClipFinder::forEachIn(const PlannedSpan& span, TimeSpan stretch, const Visit& visit) const {
  if (!span.isFiltered())
    return index_.overlapping(stretch.start, stretch.end(), [&](const IntervalIndex::Interval& found) {
      visit(places_[found.item], clipAt(places_[found.item]));
    });
  const auto visitIfThere = [&](std::uint32_t place) {
    const Clip& clip = clipAt(places_[place]);
    if (clip.start < stretch.end() && clip.end() > stretch.start) visit(places_[place], clip);
  };
  for (const std::uint32_t helper : helpers_) visitIfThere(helper);
  if (span.kind == PlannedSpan::Kind::Clip) {
    const auto own = placeOfClip_.find(span.id);
    if (own != placeOfClip_.end() && !tree_.isHelper(places_[own->second].track)) visitIfThere(own->second);
    return;
  }
  const auto members = members_.find(span.id);
  if (members == members_.end()) return;
  for (const std::uint32_t member : members->second)
    if (!tree_.isHelper(places_[member].track)) visitIfThere(member);
}

Frame ClipFinder::runUpOf(const PlannedSpan& span, const Counting& counting) const {
  if (counting.counts != Counts::EverythingHeard) return 0;
  const Frame before = std::max<Frame>(0, span.first());
  return std::min(span.context + (hasEffects_ ? std::min(counting.runUp, before) : 0), before);
}

std::optional<TimeSpan> ClipFinder::extentOf(const ClipSet& set) const {
  SetExtent extent(tree_);
  if (const auto members = members_.find(set.id); members != members_.end())
    for (const std::uint32_t member : members->second)
      extent.add(places_[member].track, clipAt(places_[member]));
  return extent.of(set);
}

std::vector<HeardClip> ClipFinder::heardIn(const PlannedSpan& span, const Counting& counting) const {
  std::vector<HeardClip> heard;
  const bool beginsHere = counting.counts == Counts::BeginsHere;
  const Frame from = span.first() - runUpOf(span, counting);
  const Frame begunBy = span.asHeard ? span.last() : span.end();
  const Frame last = lastHeard(span, counting);
  forEachIn(span, {from, std::max(begunBy, beginsHere ? begunBy : last) - from},
            [&](const Place& place, const Clip& found) {
              if (beginsHere && found.start < from && counting.crossing == Crossing::LeftOut) return;
              HeardClip clip{place.track, place.clip, std::max(found.start, from), found.end(), 0};
              const bool isEarlier = span.loop.isLapAlone() && found.start < span.start;
              if (isEarlier && found.end() > span.end()) clip.to = span.end();
              if (found.end() > last) {
                clip.to = last;
                if (beginsHere && !span.asHeard)
                  clip.endFade = std::min(counting.endFade, clip.to - span.first());
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
  const Frame first = span.first();
  forEachIn(span, {first, 1}, [&](const Place& place, const Clip& found) {
    if (found.start < first && !tree_.isHelper(place.track))
      crossing.push_back({place.track, place.clip, first, found.end(), 0});
  });
  return crossing;
}

std::vector<HeardClip> ClipFinder::inNoSet(const PlannedSpan& span) const {
  std::vector<HeardClip> outside;
  if (span.kind != PlannedSpan::Kind::ClipSet) return outside;
  index_.overlapping(span.first(), span.end(), [&](const IntervalIndex::Interval& found) {
    const Place& place = places_[found.item];
    if (inSomeSet_[found.item] == 0 && found.start >= span.first() && !tree_.isHelper(place.track))
      outside.push_back({place.track, place.clip, found.start, found.end, 0});
  });
  return outside;
}

}  // namespace octaphon
