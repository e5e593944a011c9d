#include "recipe/unrolled.h"

#include <algorithm>

namespace octaphon {
namespace {

constexpr Frame kCurveStep = 64;  // frames that the end of a bent curve is followed in

/// The curve's stretch from `from` up to `to` (not included), moved by `shift`; what follows it begins at the
/// value `then`.
void addStretch(const Automation& curve, Frame from, Frame to, Frame shift, double then,
                std::vector<CurvePoint>& points) {
  const bool jumps = valueAt(curve, to) != then;
  const auto pointAt = [&](Frame at, Segment segment) {
    CurvePoint& point = points.emplace_back();
    point.at = at + shift;
    point.value = valueAt(curve, at);
    point.segment = segment;
  };
  // What runs on over an edge is followed in small steps: half of a bent curve is none.
  const auto follow = [&](Frame at, Frame end, Segment segment) {
    if (segment == Segment::Curve)
      for (; at < end; at += kCurveStep) pointAt(at, Segment::Linear);
    else
      pointAt(at, segment);
  };
  const auto& old = curve.points;
  auto next = std::upper_bound(old.begin(), old.end(), from,
                               [](Frame at, const CurvePoint& point) { return at < point.at; });
  const Segment before = next == old.begin() || next == old.end() ? Segment::Hold : (next - 1)->segment;
  follow(from, next == old.end() ? from + 1 : std::min(next->at, to), before);
  for (; next != old.end() && next->at < to; ++next) {
    const bool isWhole = next + 1 != old.end() && (next + 1)->at + (jumps ? 1 : 0) <= to;
    if (isWhole || next + 1 == old.end()) {
      points.push_back(*next);
      points.back().at += shift;
    } else {
      follow(next->at, to, next->segment);
    }
  }
  if (!jumps || points.back().segment == Segment::Hold) return;
  if (points.back().at < to - 1 + shift)
    pointAt(to - 1, Segment::Hold);
  else
    points.back().segment = Segment::Hold;
}

void repeat(std::vector<Automation>& automation, const PlannedSpan& span) {
  for (Automation& curve : automation) {
    if (curve.points.size() < 2) continue;
    std::vector<CurvePoint> points;
    for (int lap = 0; lap < span.loop.laps; ++lap)
      addStretch(curve, lap == 0 ? std::max<Frame>(0, span.first()) : span.start, span.end(),
                 lap * span.length, valueAt(curve, span.start), points);
    curve.points = std::move(points);
  }
}

}  // namespace

PlayedContext::PlayedContext(const SignalContext& context, const PlannedSpan& span, const Counting& counting)
    : context_(context), span_(span), heard_(context.finder.heardIn(span, counting)) {
  if (span.loop.laps > 1) unroll(span);
}

void PlayedContext::unroll(const PlannedSpan& span) {
  session_ = std::make_unique<Session>(context_.session());
  repeat(session_->main.automation, span);
  for (Track& track : session_->tracks) {
    repeat(track.automation, span);
    track.clips.clear();
  }
  std::vector<HeardClip> heard;
  for (std::size_t first = 0; first < heard_.size();) {
    std::size_t end = first;
    while (end < heard_.size() && heard_[end].track == heard_[first].track) ++end;
    std::vector<Clip>& clips = session_->tracks[heard_[first].track.track()].clips.writable();
    for (int lap = 0; lap < span.loop.laps; ++lap)
      for (std::size_t i = first; i < end; ++i) {
        HeardClip copy = heard_[i];
        if (lap > 0) copy.from = std::max(copy.from, span.start);  // the intro is played once
        if (copy.from >= copy.to) continue;
        Clip clip = context_.finder.clipOf(heard_[i]);
        const Frame shift = lap * span.length;
        clip.start += shift;
        copy.from += shift;
        copy.to += shift;
        copy.clip = clips.size();
        clips.push_back(std::move(clip));
        heard.push_back(copy);
      }
    first = end;
  }
  heard_ = std::move(heard);
  unrolled_ = std::make_unique<SessionContext>(*session_, context_.facts, context_.plugins);
  unrolled_->signal.repeats = &context_;
  span_.length *= span.loop.laps;
  span_.loop = {};
}

}  // namespace octaphon
