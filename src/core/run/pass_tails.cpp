#include "run/pass_tails.h"

#include <tbb/parallel_for.h>
#include <tbb/task_arena.h>

#include <algorithm>

#include "base/decibels.h"
#include "base/denormals.h"

namespace octaphon {

/// What is folded onto a loop's beginning, in dBFS.
static constexpr double kFoldedDb = -126;

RingSetting ringSettingOf(const Sheet& sheet, const TappedSound& sound, Frame longestDelay) {
  const PlannedBrief& brief = sheet.briefs[sound.brief];
  const Ends& asked = brief.ends[sound.span].asked;
  const PlannedSpan& span = brief.spans[sound.span];
  RingSetting setting;
  setting.rate = sheet.rate;
  setting.before = span.end() - span.first();
  setting.thresholdDb = asked.thresholdDb;
  setting.relative = asked.relative;
  setting.leastDb = kLeastRelativeDb;
  setting.hold = std::max(framesOf(asked.holdMs / 1000, sheet.rate), longestDelay);
  setting.limit = span.tail;
  if (span.loop.way != LoopWay::Fold) return setting;
  setting.thresholdDb = kFoldedDb;
  setting.relative = false;
  return setting;
}

std::optional<std::size_t> PassTails::add(std::size_t row) {
  const TappedSound& sound = sheet_.soundOf(sheet_.rows[row]);
  const PlannedBrief& brief = sheet_.briefs[sound.brief];
  const bool isFolded = brief.spans[sound.span].loop.way == LoopWay::Fold;
  if (!isFolded && (!brief.spans[sound.span].ringsOut || brief.rungOut[sound.span].isKnown))
    return std::nullopt;
  for (std::size_t i = 0; i < tails_.size(); ++i)
    if (tails_[i].sound->brief == sound.brief && tails_[i].sound->span == sound.span) return i;
  TailOfSpan tail{&sound, isFolded ? 0 : floorOf_(sound.brief, sound.span), {}, nullptr};
  Frame longestDelay = 0;
  std::vector<int> channels;
  for (const TappedSound& beside : sheet_.soundsBeside(sound)) {
    const PlannedSource& source = brief.sources[beside.source];
    const Tap tap = recipe_.tap(brief.brief, source);
    longestDelay = std::max(longestDelay, recipe_.longestDelay(tap.node));
    tail.sources.push_back({taps_.add(tap.node, {&brief.brief, {source}, false})});
    channels.push_back(tap.channels);
  }
  tail.meter = std::make_unique<RingMeter>(ringSettingOf(sheet_, sound, longestDelay), channels);
  tails_.push_back(std::move(tail));
  return tails_.size() - 1;
}

void PassTails::begin(const TapSource& source) {
  for (TailOfSpan& tail : tails_)
    for (Source& one : tail.sources) one.skipped = one.latency = source.latency(one.tap);
}

/// Frames before the first one, and those of latency, are none of the file's.
void PassTails::takeOne(Source& source, RingingSound& sound, const TapSource& from, Frame at, Frame frames) {
  const Frame before = std::clamp<Frame>(-at, 0, frames);
  const Frame skipped = std::min(source.skipped, frames - before);
  source.skipped -= skipped;
  const Frame first = before + skipped;
  if (first == frames) return;
  const TapBlock whole = from.tap(source.tap);
  source.isBroken = source.isBroken || whole.error != nullptr;
  const TapBlock block = whole.after(first);
  sound.take({block.isSilent() ? nullptr : block.channel, frames - first});
}

void PassTails::take(const TapSource& source, Frame at, Frame frames) {
  tbb::this_task_arena::isolate([&] {
    for (TailOfSpan& tail : tails_) {
      if (tail.meter->tail()) continue;
      tbb::parallel_for(std::size_t{0}, tail.sources.size(), [&](std::size_t i) {
        const DenormalGuard guard;
        takeOne(tail.sources[i], tail.meter->sound(i), source, at, frames);
      });
      tail.meter->decide();
    }
  });
}

Frame PassTails::framesWanted() const {
  Frame wanted = 0;
  for (const TailOfSpan& tail : tails_) {
    if (tail.meter->tail()) continue;
    for (const Source& source : tail.sources)
      wanted = std::max(wanted, tail.meter->setting().before + tail.meter->setting().limit + source.latency);
  }
  return wanted;
}

Frame PassTails::certain(std::size_t tail) const {
  return std::max(tails_[tail].meter->certain(), tails_[tail].floor);
}

std::optional<Frame> PassTails::decided(std::size_t tail) const {
  const auto heard = tails_[tail].meter->tail();
  return heard ? std::optional(std::max(*heard, tails_[tail].floor)) : std::nullopt;
}

Frame PassTails::heardTo(std::size_t tail) const {
  return tails_[tail].meter->setting().before + tails_[tail].meter->heard();
}

std::optional<double> PassTails::leftOfFold(std::size_t index) const {
  const TailOfSpan& tail = tails_[index];
  const bool isFolded = sheet_.briefs[tail.sound->brief].spans[tail.sound->span].loop.way == LoopWay::Fold;
  return isFolded && tail.meter->isByLimit() ? std::optional(decibelsOf(tail.meter->left())) : std::nullopt;
}

HeardTail PassTails::heard(std::size_t index, const Digest& digest) const {
  const TailOfSpan& tail = tails_[index];
  HeardTail heard{tail.sound->brief, tail.sound->span, {}};
  Measured& measured = heard.measured;
  measured.key = sheet_.spanKeyOf(tail.sound->brief, tail.sound->span);
  measured.sound = digest;
  measured.tail = decided(index).value_or(tail.meter->setting().limit);
  // What could not be played may ring on for longer, and files that stay may be longer than the sound: it is
  // listened to again.
  const bool isBroken =
      std::any_of(tail.sources.begin(), tail.sources.end(), [](const Source& s) { return s.isBroken; });
  if (isBroken || measured.tail != tail.meter->tail()) ++measured.sound.low;
  measured.byLimit = tail.meter->isByLimit();
  measured.leftDb = decibelsOf(tail.meter->left());
  return heard;
}

}  // namespace octaphon
