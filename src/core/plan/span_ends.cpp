#include "plan/span_ends.h"

#include <algorithm>
#include <numeric>

#include "base/unicode.h"

namespace octaphon {
namespace {

/// What a rate converter needs to hear on either side, so that files of adjacent spans join. Its filter is
/// some 6 ms long at the lowest rate.
constexpr double kContextSeconds = 0.02;

/// A whole number of periods of both rates, so that the file's first frame lies on the span's.
Frame contextOf(int in, int out) {
  if (in == out) return 0;
  const Frame period = in / std::gcd(in, out);
  const Frame wanted = framesOf(kContextSeconds, in);
  return (wanted + period - 1) / period * period;
}

struct Contradiction {
  bool isThere;
  const char* text;
};

}  // namespace

Frame SpanEnds::least() const {
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

SpanEnds SpanEndsPlanner::plan(const Brief& brief, const OwnEnds& own, PlannedSpan& span) const {
  SpanEnds ends;
  ends.asked = endsWith(brief.ends, own);
  const int rate = brief.files.rate > 0 ? brief.files.rate : session_.rate;
  span.leadIn = leadInOf(ends.asked, span);
  span.tail = tailOf(ends.asked, span);
  span.asHeard = ends.asked.tail == Tail::AsHeard;
  span.ringsOut = ends.asked.tail == Tail::RingsOut;
  span.context = contextOf(session_.rate, rate);
  ends.limit = span.tail;
  ends.fadeIn = framesOf(ends.asked.fadeInMs / 1000, rate);
  ends.fadeOut = framesOf(ends.asked.fadeOutMs / 1000, rate);
  ends.extent.sessionRate = session_.rate;
  ends.extent.rate = rate;
  ends.extent.first = span.first();
  ends.extent.leadIn = span.leadIn;
  ends.extent.body = span.length;
  ends.extent.silence = framesOf(ends.asked.silenceSeconds, rate);
  if (ends.asked.exactSeconds > 0)
    ends.extent.exact = std::max<Frame>(1, framesOf(ends.asked.exactSeconds, rate));
  if (ends.asked.pictureFrames) ends.extent.picture = session_.pictureRate;
  checkEnds(ends, span);
  return ends;
}

}  // namespace octaphon
