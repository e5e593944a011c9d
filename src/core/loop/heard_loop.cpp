#include "loop/heard_loop.h"

#include <algorithm>
#include <cmath>

#include "base/samples.h"

namespace octaphon {
namespace {

constexpr double kInsideSeconds = 10;  // of the loop, behind its beginning and before its end
constexpr double kOutsideSeconds = 2;
constexpr double kGoesOnSeconds = 0.4;
constexpr double kHasGone = 0.03;  // of the lap's loudness: softer than that, nothing goes on

/// Root of the mean square of all channels.
double loudnessOf(const Lap& sound) {
  double sum = 0;
  for (const std::vector<float>& channel : sound.channels)
    sum += productOfSamples(channel.data(), channel.data(), sound.frames());
  return std::sqrt(sum / static_cast<double>(std::max<Frame>(1, sound.frames())));
}

}  // namespace

HeardLoop HeardLoop::around(LoopPlace place, Frame reach, int rate, int channels, LoopPlace all) {
  HeardLoop heard;
  heard.sound.rate = rate;
  heard.sound.channels.resize(static_cast<std::size_t>(channels));
  const Frame outside = std::max(reach, framesOf(kOutsideSeconds, rate));
  const Frame inside = reach + framesOf(kInsideSeconds, rate);
  heard.first = std::max(all.start, place.start - outside);
  heard.last = std::min(all.end(), place.end() + outside);
  heard.headTo = place.start + inside;
  heard.tailFrom = place.end() - inside;
  if (heard.headTo >= heard.tailFrom) heard.headTo = heard.tailFrom = heard.last;
  return heard;
}

void HeardLoop::take(const float* const* channels, Frame at, Frame frames) {
  for (const auto& [from, to] : {std::pair(first, headTo), std::pair(tailFrom, last)}) {
    const Frame begin = std::max(at, from), end = std::min(at + frames, to);
    if (begin >= end) continue;
    for (std::size_t c = 0; c < sound.channels.size(); ++c) {
      std::vector<float>& held = sound.channels[c];
      if (channels == nullptr)
        held.resize(held.size() + static_cast<std::size_t>(end - begin), 0.0f);
      else
        held.insert(held.end(), channels[c] + (begin - at), channels[c] + (end - at));
    }
  }
}

bool HeardLoop::holds(LoopPlace place) const {
  const bool isOneStretch = headTo == tailFrom;
  const Frame judgedBy = framesOf(kSeamSeconds, sound.rate);
  return place.length > 0 && place.start >= first && place.end() <= last &&
         (isOneStretch || (place.start + judgedBy <= headTo && place.end() - judgedBy >= tailFrom));
}

float HeardLoop::at(std::size_t channel, Frame frame) const {
  const bool isHeld = (frame >= first && frame < headTo) || (frame >= tailFrom && frame < last);
  const auto inside = static_cast<std::size_t>(inSound(frame));
  return isHeld && inside < sound.channels[channel].size() ? sound.channels[channel][inside] : 0.0f;
}

std::optional<Frame> HeardLoop::nextZero(Frame from, Frame step) const {
  const auto sumAt = [&](Frame frame) {
    double sum = 0;
    for (std::size_t c = 0; c < sound.channels.size(); ++c) sum += static_cast<double>(at(c, frame));
    return sum;
  };
  const bool isInHead = from <= headTo;
  const Frame begin = isInHead ? first : tailFrom, end = isInHead ? headTo : last;
  for (Frame frame = from + step; frame > begin && frame < end; frame += step)
    if ((sumAt(frame - 1) < 0) != (sumAt(frame) < 0)) return frame;
  return std::nullopt;
}

LoopPlace HeardLoop::inSound(LoopPlace place) const {
  return {place.start - first, place.length - (tailFrom - headTo)};
}

Seam HeardLoop::seamAt(LoopPlace place) const {
  const LoopPlace inside = inSound(place);
  const bool isKnown = std::any_of(goesOn.begin(), goesOn.end(), [&](const LoopPlace& span) {
    return span.start < place.end() && span.end() > place.end();
  });
  const Lap lap = partOf(sound, inside.start, inside.length);
  const Lap next = isKnown ? partOf(sound, inside.end(), framesOf(kGoesOnSeconds, sound.rate)) : Lap{};
  return measureSeam(lap, isKnown && loudnessOf(next) > kHasGone * loudnessOf(lap) ? &next : nullptr);
}

std::vector<LoopCandidate> HeardLoop::search(LoopPlace place, Frame reach) const {
  if (reach <= 0) return {};
  std::vector<LoopCandidate> found = searchLoop(
      sound, inSound(place), {reach}, [this](LoopPlace inside) { return seamAt(outOfSound(inside)); });
  for (LoopCandidate& candidate : found) candidate.place = outOfSound(candidate.place);
  return found;
}

FoundSeam judged(HeardLoop heard, LoopPlace place, Frame reach) {
  FoundSeam found{std::move(heard), place, {}, {}};
  found.seam = found.heard.seamAt(place);
  found.candidates = found.heard.search(place, reach);
  return found;
}

}  // namespace octaphon
