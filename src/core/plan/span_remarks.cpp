#include "plan/span_remarks.h"

#include <algorithm>
#include <set>
#include <tuple>

#include "base/unicode.h"
#include "routing/mixing_law.h"

namespace octaphon {
namespace {

class MediaRemarks {
 public:
  MediaRemarks(const ClipFinder& finder, const MediaFacts& facts, const std::vector<HeardClip>& heard)
      : finder_(finder), facts_(facts), heard_(heard) {}

  std::vector<ClipRemark> find() {
    for (index_ = 0; index_ < heard_.size(); ++index_)
      if (const MediumFact* fact = facts_.find(clip().medium)) addOf(*fact);
    return std::move(remarks_);
  }

 private:
  const HeardClip& heard() const { return heard_[index_]; }
  const Clip& clip() const { return finder_.clipOf(heard()); }
  const Track& track() const { return finder_.session().tracks[heard().track.track()]; }
  void add(Severity severity, RemarkCode code, std::string text) {
    remarks_.push_back({index_, {severity, code, clip().medium, std::move(text)}});
  }

  void addOf(const MediumFact& fact) {
    switch (fact.state) {
      case MediumFact::State::Missing:
        return add(Severity::Fault, RemarkCode::MissingMedium,
                   fact.problem + ". Put the file back, or take its clips out");
      case MediumFact::State::Unreadable:
        return add(Severity::Fault, RemarkCode::UnreadableMedium,
                   fact.problem + ". Replace the file by one that can be read");
      case MediumFact::State::Different:
        return add(Severity::Fault, RemarkCode::DifferentMedium,
                   fact.problem + ". Put back the one it was, or take it as it is");
      case MediumFact::State::Ready: return addOfReady(fact);
    }
  }

  void addOfReady(const MediumFact& fact) {
    const std::string name = printable(fact.file.filename().string());
    if (fact.flaw != MediumFlaw::None)
      add(Severity::Warning, RemarkCode::FlawedMedium,
          name + ": " + flawText(fact.flaw) + ". Replace it by a file that is right");
    const std::string channels = counted(static_cast<std::size_t>(fact.info.channels), "channel");
    if (clip().channel > fact.info.channels)
      add(Severity::Warning, RemarkCode::MediumChannels,
          name + " has " + channels + ", a clip asks for number " + std::to_string(clip().channel) +
              " and is silent. Choose another channel");
    if (clip().channel == 0 && fact.info.channels > track().channels && track().channels > 1)
      add(Severity::Warning, RemarkCode::MediumChannels,
          name + " has " + channels + ", only the first " + std::to_string(track().channels) +
              " sound. Give the track more channels");
    const Frame last = clip().offset + (heard().to - clip().start);
    if (last > fact.frames)
      add(Severity::Warning, RemarkCode::BeyondMedium,
          "A clip on " + printable(track().name) + " is " + std::to_string(last - fact.frames) +
              " frames longer than " + name + "; silence follows. Shorten the clip");
  }

  const ClipFinder& finder_;
  const MediaFacts& facts_;
  const std::vector<HeardClip>& heard_;
  std::size_t index_ = 0;
  std::vector<ClipRemark> remarks_;
};

class SpanRemarks {
 public:
  explicit SpanRemarks(const ClipFinder& finder) : finder_(finder) {}

  void addAtEnd(const HeardClip& heard, const PlannedSpan& span, Frame window) {
    const Clip& clip = finder_.clipOf(heard);
    const Frame end = span.start + span.length;
    if (clip.start < std::max(span.start, end - window) || clip.end() <= end) return;
    add(heard, Severity::Warning, RemarkCode::StartsAtEnd, clip.id,
        "A clip on " + printable(trackOf(heard).name) + " begins " +
            timeText(end - clip.start, finder_.session().rate) +
            " before the end and goes on. Usually it is the next sound's; end the region before it");
  }

  void addCutByTail(const HeardClip& heard) {
    const Clip& clip = finder_.clipOf(heard);
    if (clip.end() <= heard.to) return;
    add(heard, Severity::Warning, RemarkCode::CutByTail, clip.id,
        "A clip on " + printable(trackOf(heard).name) + " may finish, but the tail ends " +
            timeText(clip.end() - heard.to, finder_.session().rate) +
            " before it does, and it is faded out there. Make the tail longer");
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
  std::vector<TrackRemark> remarks_;
  std::set<std::tuple<Strip, RemarkCode, std::string>> seen_;
};

}  // namespace

std::vector<ClipRemark> mediaRemarks(const ClipFinder& finder, const MediaFacts& facts,
                                     const std::vector<HeardClip>& heard) {
  return MediaRemarks(finder, facts, heard).find();
}

std::vector<TrackRemark> spanRemarks(const ClipFinder& finder, const PlannedSpan& span,
                                     const Counting& counting, const std::vector<HeardClip>& heard) {
  SpanRemarks remarks(finder);
  const bool mayFinish = span.finish && !span.asHeard && counting.counts == Counts::BeginsHere;
  const Frame window = framesOf(0.05, finder.session().rate);
  for (const HeardClip& clip : heard) {
    if (finder.tree().isHelper(clip.track)) continue;
    if (!span.asHeard) remarks.addAtEnd(clip, span, window);
    if (mayFinish) remarks.addCutByTail(clip);
  }
  remarks.addOutside(finder.inNoSet(span), span);
  if (counting.counts == Counts::BeginsHere)
    for (const HeardClip& clip : finder.crossingInto(span))
      remarks.addCrossing(clip, counting.crossing == Crossing::LeftOut);
  return remarks.take();
}

std::vector<TrackRemark> SharedClips::add(const PlannedSpan& span, const std::vector<HeardClip>& heard) {
  std::vector<TrackRemark> remarks;
  if (span.kind != PlannedSpan::Kind::Region) return remarks;  // others overlap freely
  std::erase_if(earlier_, [&](const Earlier& e) { return e.span.end() <= span.first(); });
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
