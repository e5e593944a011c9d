#include "plan/span_remarks.h"

#include <algorithm>
#include <set>
#include <tuple>

#include "base/unicode.h"
#include "routing/mixing_law.h"

namespace octaphon {
namespace {

class SpanRemarks {
 public:
  SpanRemarks(const ClipFinder& finder, const MediaFacts& facts) : finder_(finder), facts_(facts) {}

  void addMedium(const HeardClip& heard) {
    const Clip& clip = finder_.clipOf(heard);
    const MediumFact* fact = facts_.find(clip.medium);
    if (fact == nullptr) return;
    if (fact->state == MediumFact::State::Missing)
      return add(heard, Severity::Fault, RemarkCode::MissingMedium, clip.medium,
                 fact->problem + ". Put the file back, or take its clips out");
    if (fact->state == MediumFact::State::Unreadable)
      return add(heard, Severity::Fault, RemarkCode::UnreadableMedium, clip.medium,
                 fact->problem + ". Replace the file by one that can be read");
    const Track& track = trackOf(heard);
    if (clip.channel > fact->info.channels)
      add(heard, Severity::Warning, RemarkCode::MediumChannels, clip.medium,
          fact->file.filename().string() + " has " +
              counted(static_cast<std::size_t>(fact->info.channels), "channel") +
              ", a clip asks for number " + std::to_string(clip.channel) +
              " and is silent. Choose another channel");
    if (clip.channel == 0 && fact->info.channels > track.channels && track.channels > 1)
      add(heard, Severity::Warning, RemarkCode::MediumChannels, clip.medium,
          fact->file.filename().string() + " has " +
              counted(static_cast<std::size_t>(fact->info.channels), "channel") + ", only the first " +
              std::to_string(track.channels) + " sound. Give the track more channels");
    const Frame last = clip.offset + (heard.to - clip.start);
    if (last > fact->frames)
      add(heard, Severity::Warning, RemarkCode::BeyondMedium, clip.id,
          "A clip on " + printable(track.name) + " is " + std::to_string(last - fact->frames) +
              " frames longer than " + fact->file.filename().string() +
              "; silence follows. Shorten the clip");
  }

  void addAtEnd(const HeardClip& heard, const PlannedSpan& span, Frame window) {
    const Clip& clip = finder_.clipOf(heard);
    const Frame end = span.start + span.length;
    if (clip.start < std::max(span.start, end - window) || clip.end() <= end) return;
    add(heard, Severity::Warning, RemarkCode::StartsAtEnd, clip.id,
        "A clip on " + printable(trackOf(heard).name) + " begins " +
            timeText(end - clip.start, finder_.session().rate) +
            " before the end and goes on. Usually it is the next sound's; end the region before it");
  }

  /// The same words for each track, so that a row that hears several says it once.
  void addOutside(const std::vector<HeardClip>& outside, const PlannedSpan& span) {
    const bool one = outside.size() == 1;
    for (const HeardClip& heard : outside)
      add(heard, Severity::Note, RemarkCode::NotInSet, span.id,
          counted(outside.size(), "clip") + (one ? " begins within " : " begin within ") +
              printable(span.name) +
              (one ? " and is in no clip set, so it is not heard. Add it to the set if it belongs to the "
                     "sound"
                   : " and are in no clip set, so they are not heard. Add to the set what belongs to the "
                     "sound"));
  }

  void addCrossing(const HeardClip& heard, bool leftOut) {
    add(heard, Severity::Note, RemarkCode::CrossesStart, finder_.clipOf(heard).id,
        "A clip on " + printable(trackOf(heard).name) + " began before the start and " +
            (leftOut ? "is left out. Choose 'everything heard' or 'from the start on' to hear it"
                     : "is heard from the start on"));
  }

  std::vector<TrackRemark> take() { return std::move(remarks_); }

 private:
  const Track& trackOf(const HeardClip& heard) const { return finder_.session().tracks[heard.track.track()]; }

  void add(const HeardClip& heard, Severity severity, RemarkCode code, const std::string& place,
           std::string text) {
    if (!seen_.insert({heard.track, code, place}).second) return;
    remarks_.push_back({heard.track, {severity, code, place, std::move(text)}});
  }

  const ClipFinder& finder_;
  const MediaFacts& facts_;
  std::vector<TrackRemark> remarks_;
  std::set<std::tuple<Strip, RemarkCode, std::string>> seen_;
};

}  // namespace

std::vector<TrackRemark> spanRemarks(const ClipFinder& finder, const MediaFacts& facts,
                                     const PlannedSpan& span, const Counting& counting,
                                     const std::vector<HeardClip>& heard) {
  SpanRemarks remarks(finder, facts);
  const Frame window = framesOf(0.05, finder.session().rate);
  for (const HeardClip& clip : heard) {
    remarks.addMedium(clip);
    if (!finder.tree().isHelper(clip.track)) remarks.addAtEnd(clip, span, window);
  }
  remarks.addOutside(finder.inNoSet(span), span);
  if (counting.counts == Counts::BeginsHere)
    for (const HeardClip& clip : finder.crossingInto(span))
      remarks.addCrossing(clip, counting.crossing == Crossing::LeftOut);
  return remarks.take();
}

std::vector<TrackRemark> SharedClips::add(const PlannedSpan& span, const std::vector<HeardClip>& heard) {
  std::vector<TrackRemark> remarks;
  if (span.kind == PlannedSpan::Kind::ClipSet) return remarks;  // sets overlap freely
  std::erase_if(earlier_, [&](const Earlier& e) { return e.span.start + e.span.length <= span.start; });
  for (auto e = earlier_.rbegin(); e != earlier_.rend() && remarks.empty(); ++e) {
    const bool contains =
        span.start + span.length <= e->span.start + e->span.length || e->span.start == span.start;
    if (contains) continue;
    std::set<Strip> tracks;
    for (const HeardClip& clip : heard)
      if (e->clips.contains({clip.track, clip.clip}) && tracks.insert(clip.track).second)
        remarks.push_back({clip.track,
                           {Severity::Warning, RemarkCode::SharedClips, e->span.id,
                            "Shares clips with " + printable(e->span.name) +
                                ", which overlaps it. Move one of the regions apart"}});
  }
  Earlier own{span, {}};
  for (const HeardClip& clip : heard) own.clips.insert({clip.track, clip.clip});
  earlier_.push_back(std::move(own));
  if (earlier_.size() > kMost) earlier_.pop_front();
  return remarks;
}

}  // namespace octaphon
