#include "plan/span_ends.h"

#include <algorithm>
#include <numeric>

#include "base/unicode.h"

namespace octaphon {
namespace {

/// What a rate converter needs to hear on either side, so that files of adjacent spans join. Its filter is
/// some 6 ms long at the lowest rate.
constexpr double kContextSeconds = 0.02;

/// The longest tail that is folded.
constexpr double kMaxFoldSeconds = 600;

/// A whole number of periods of all rates, so that the files' first frame lies on the span's.
Frame contextOf(int in, const std::vector<int>& out) {
  Frame period = 0;
  for (const int rate : out)
    if (rate != in) period = std::lcm(std::max<Frame>(period, 1), in / std::gcd(in, rate));
  if (period == 0) return 0;
  const Frame wanted = framesOf(kContextSeconds, in);
  return (wanted + period - 1) / period * period;
}

struct Contradiction {
  bool isThere;
  const char* text;
};

}  // namespace

Extent SpanEnds::most() const {
  if (!loop.isSearched() || !loop.isLengthKept) return extentOf(extent, limit);
  const Frame search = atRate(loop.search, extent.sessionRate, extent.rate);
  return extentOf(extent, limit,
                  {search, search + atRate(extent.body - 2 * loop.search, extent.sessionRate, extent.rate)});
}

Frame SpanEnds::least() const {
  if (loop.isSearched())
    return std::max<Frame>(0,
                           extent.soundFrames(0) - 4 * atRate(loop.search, extent.sessionRate, extent.rate));
  return asked.trimDb ? 0 : extentOf(extent, asked.tail == Tail::RingsOut ? 0 : limit).frames();
}

void SpanEndsPlanner::checkEnds(SpanEnds& ends, const PlannedSpan& span) const {
  const Ends& asked = ends.asked;
  const bool hasLength = asked.tail == Tail::Fixed || asked.tail == Tail::AsHeard;
  const Contradiction contradictions[]{
      {asked.exactSeconds > 0 && asked.trimDb,
       "An exact length and trimmed silence cannot be had together. Keep the silence, or let the length be "
       "as "
       "it comes"},
      {asked.exactSeconds > 0 && asked.pictureFrames,
       "An exact length and whole picture frames cannot be had together. Leave one of them out"},
      {asked.lengths == Lengths::LinedUp && asked.trimDb,
       "Files that are trimmed each on its own do not line up. Keep the silence, or let each have its own "
       "length"},
      {hasLength && asked.tailSeconds > 0 && asked.tailBars > 0,
       "The tail has a length in seconds and one in bars. Set one of them to 0"},
      {asked.leadInSeconds > 0 && asked.leadInBars > 0,
       "The lead-in has a length in seconds and one in bars. Set one of them to 0"},
  };
  for (const Contradiction& contradiction : contradictions)
    if (contradiction.isThere)
      ends.faults.push_back({Severity::Fault, RemarkCode::ContradictingEnds, span.id, contradiction.text});
  if (tempo_.empty() && (asked.leadInBars > 0 || (hasLength && asked.tailBars > 0)))
    ends.faults.push_back({Severity::Fault, RemarkCode::NoBars, span.id,
                           "Bars are asked for, and the session has no tempo. Give it one, or say it in "
                           "seconds"});
}

Frame SpanEndsPlanner::tailOf(const Ends& ends, const PlannedSpan& span) const {
  switch (ends.tail) {
    case Tail::None: return 0;
    case Tail::RingsOut: return framesOf(ends.limitSeconds, session_.rate);
    case Tail::Fixed:
    case Tail::AsHeard: break;
  }
  if (ends.tailBars > 0 && !tempo_.empty())
    return std::max<Frame>(0, tempo_.frameAfterBars(span.end(), ends.tailBars) - span.end());
  return framesOf(ends.tailSeconds, session_.rate);
}

Frame SpanEndsPlanner::leadInOf(const Ends& ends, const PlannedSpan& span) const {
  if (ends.leadInBars > 0 && !tempo_.empty())
    return std::max<Frame>(0, span.start - tempo_.frameAfterBars(span.start, -ends.leadInBars));
  return framesOf(ends.leadInSeconds, session_.rate);
}

void SpanEndsPlanner::planTails(SpanEnds& ends, PlannedSpan& span) const {
  span.leadIn = leadInOf(ends.asked, span);
  span.tail = tailOf(ends.asked, span);
  span.asHeard = ends.asked.tail == Tail::AsHeard;
  span.ringsOut = ends.asked.tail == Tail::RingsOut;
  ends.limit = span.tail;
  ends.extent.leadIn = span.leadIn;
}

Frame SpanEndsPlanner::bodyOf(const Loop& loop, const PlannedSpan& span) const {
  if (loop.frames > 0) return loop.frames;
  if (loop.bars > 0 && !tempo_.empty()) return tempo_.frameAfterBars(span.start, loop.bars) - span.start;
  return loop.seconds > 0 ? framesOf(loop.seconds, session_.rate) : span.length;
}

void SpanEndsPlanner::setLaps(SpanEnds& ends, PlannedSpan& span, int laps) const {
  span.loop.laps = laps;
  ends.extent.leadIn = span.loop.keepsIntro ? span.leadIn + (laps - 2) * span.length : 0;
  ends.extent.first = span.loop.keepsIntro ? span.first() : span.start;
}

void SpanEndsPlanner::setBody(SpanEnds& ends, PlannedSpan& span, Frame body) const {
  span.length = ends.extent.body = body;
  ends.loop.blend = std::min(ends.loop.blend, body);
  ends.loop.beats =
      tempo_.empty() ? std::nullopt : std::optional(tempo_.beatsBetween(span.start, span.end()));
  planLoop(ends, span);
}

/// What is played for a lap, and what of it is written. Laps have neither tails nor edges.
void SpanEndsPlanner::planLoop(SpanEnds& ends, PlannedSpan& span) const {
  const SpanLoopPlan& loop = ends.loop;
  if (!loop.isLap()) return;
  const Frame leadIn = span.leadIn;
  span.leadIn = span.tail = ends.limit = 0;
  span.asHeard = span.ringsOut = false;
  ends.extent.leadIn = 0;
  ends.extent.isLoop = true;
  switch (loop.asked.way) {
    case LoopWay::Fold: span.tail = framesOf(kMaxFoldSeconds, session_.rate); break;
    case LoopWay::InnerLap:
      if (span.loop.keepsIntro) span.leadIn = leadIn;
      setLaps(ends, span, std::max(2, span.loop.laps));
      return;
    case LoopWay::Blend: span.leadIn = loop.blend; break;
    case LoopWay::Plain:
      span.leadIn = span.tail = loop.search;
      span.asHeard = true;
      ends.extent.body = span.length + 2 * loop.search;
      ends.extent.first = span.first();
      return;
    default: return;
  }
  ends.extent.first = span.start;
}

void SpanEndsPlanner::checkLoop(SpanEnds& ends, const PlannedSpan& span) const {
  const Loop& loop = ends.loop.asked;
  if (!ends.loop.isThere()) return;
  const bool isLap = ends.loop.isLap();
  const int lengths = (loop.frames > 0) + (loop.seconds > 0) + (loop.bars > 0);
  const Contradiction contradictions[]{
      {lengths > 1, "The loop's body has more than one length. Give it in frames, in seconds or in bars"},
      {isLap && ends.asked.exactSeconds > 0,
       "A lap is as long as its body, and an exact length is asked for. Give the length to the loop's body "
       "instead"},
      {isLap && ends.asked.pictureFrames,
       "A lap cannot be moved out to whole picture frames: it would not join any more. Leave one of them "
       "out"},
      {ends.asked.trimDb.has_value(), "Silence that is trimmed off would change the loop's length. Keep it"},
  };
  for (const Contradiction& contradiction : contradictions)
    if (contradiction.isThere)
      ends.faults.push_back({Severity::Fault, RemarkCode::ContradictingEnds, span.id, contradiction.text});
  if (loop.bars > 0 && tempo_.empty())
    ends.faults.push_back(
        {Severity::Fault, RemarkCode::NoBars, span.id,
         "The loop's body is given in bars, and the session has no tempo. Give it one, or say it "
         "in seconds"});
  if (span.length <= 0)
    ends.faults.push_back({Severity::Fault, RemarkCode::EmptySpan, span.id,
                           "The loop has no length. Give its region one, or its body"});
}

/// What is counted in frames of the file.
SpanEnds SpanEndsPlanner::converted(SpanEnds ends, const PlannedSpan& span, int rate) {
  const Ends& asked = ends.asked;
  const int sessionRate = ends.extent.sessionRate;
  ends.extent.rate = rate;
  ends.extent.exact = asked.exactSeconds > 0 ? std::max<Frame>(1, framesOf(asked.exactSeconds, rate)) : 0;
  const bool isLap = ends.loop.isLap();
  ends.extent.silence = isLap ? 0 : framesOf(asked.silenceSeconds, rate);
  ends.fadeIn = isLap ? 0 : framesOf(asked.fadeInMs / 1000, rate);
  ends.fadeOut = isLap ? 0 : framesOf(asked.fadeOutMs / 1000, rate);
  if (ends.loop.asked.way == LoopWay::Overlap) {  // what is played over and over keeps its edges
    ends.fadeIn = std::min(ends.fadeIn, atRate(span.leadIn, sessionRate, rate));
    ends.fadeOut = std::min(ends.fadeOut, atRate(span.tail, sessionRate, rate));
  }
  return ends;
}

SpanEnds SpanEndsPlanner::plan(const Brief& brief, const OwnEnds& own, const OwnLoop& ownLoop,
                               const std::vector<int>& rates, PlannedSpan& span) const {
  SpanEnds ends;
  ends.asked = endsWith(brief.ends, own);
  ends.loop.asked = loopWith(brief.loop, ownLoop);
  const Loop& loop = ends.loop.asked;
  ends.extent.sessionRate = session_.rate;
  if (ends.loop.isThere()) span.length = bodyOf(loop, span);
  span.loop = {loop.way, loop.way == LoopWay::InnerLap ? std::max(2, loop.laps) : 1,
               loop.way == LoopWay::InnerLap && loop.keepIntro};
  ends.loop.blend = std::min(framesOf(loop.blendMs / 1000, session_.rate), span.length);
  ends.loop.search = loop.way == LoopWay::Plain ? framesOf(loop.searchMs / 1000, session_.rate) : 0;
  ends.loop.isLengthKept = loop.hasLength();
  if (ends.loop.isThere() && !tempo_.empty()) ends.loop.beats = tempo_.beatsBetween(span.start, span.end());
  planTails(ends, span);
  span.context = ends.loop.isLap() ? 0 : contextOf(session_.rate, rates);
  ends = converted(std::move(ends), span, rates.front());
  ends.extent.first = span.first();
  ends.extent.body = span.length;
  if (ends.asked.pictureFrames) ends.extent.picture = session_.pictureRate;
  checkEnds(ends, span);
  checkLoop(ends, span);
  planLoop(ends, span);
  return ends;
}

}  // namespace octaphon
