#include "level/sound_figures.h"

#include <algorithm>
#include <cmath>
#include <utility>

#include "base/decibels.h"

namespace octaphon {
namespace {

constexpr double kRounding = 1e-9;  // relative; of sums that are not exact

bool isNear(double a, double b, double scale) { return std::fabs(a - b) <= kRounding * scale; }

/// Energy apart, in dB; of silence and sound as much as there is.
double apartDb(double before, double after) {
  constexpr double kNothing = 1e-14;  // −140 dBFS for one sample
  return 10 * std::log10((after + kNothing) / (before + kNothing));
}

bool isSame(const ChannelFigures& a, const ChannelFigures& b, Frame frames, double toleranceDb) {
  if (toleranceDb > 0) return std::fabs(apartDb(a.energy, b.energy)) <= toleranceDb;
  const double most = std::max({1.0, a.energy, b.energy});
  return a.peak == b.peak && isNear(a.sum, b.sum, 1e-3) && isNear(a.energy, b.energy, most) &&
         isNear(a.moment, b.moment, most * static_cast<double>(std::max<Frame>(1, frames)));
}

/// Of 6 and 8 channels, in the order of mixing_law.h, that of low frequencies: encoders keep of it what is
/// under some 120 Hz.
bool isLowFrequencies(std::size_t channels, std::size_t channel) {
  return (channels == 6 || channels == 8) && channel == 3;
}

bool areSame(const std::vector<ChannelFigures>& a, const std::vector<ChannelFigures>& b, Frame frames,
             double toleranceDb) {
  if (a.size() != b.size()) return false;
  for (std::size_t c = 0; c < a.size(); ++c) {
    const bool isLeftOut = toleranceDb > 0 && isLowFrequencies(a.size(), c);
    if (!isLeftOut && !isSame(a[c], b[c], frames, toleranceDb)) return false;
  }
  return true;
}

/// Whether each of one list is one of the other.
bool isReordered(std::vector<ChannelFigures> before, const std::vector<ChannelFigures>& after, Frame frames,
                 double toleranceDb) {
  for (const ChannelFigures& channel : after) {
    const auto found = std::find_if(before.begin(), before.end(), [&](const ChannelFigures& other) {
      return isSame(other, channel, frames, toleranceDb);
    });
    if (found == before.end()) return false;
    before.erase(found);
  }
  return true;
}

ChannelFigures together(const SoundFigures& sound) {
  ChannelFigures all;
  for (const ChannelFigures& channel : sound.channels)
    all.energy += channel.energy, all.moment += channel.moment;
  return all;
}

}  // namespace

double SoundFigures::peak() const {
  double most = 0;
  for (const ChannelFigures& channel : channels) most = std::max(most, channel.peak);
  return most;
}

double SoundFigures::offset() const {
  double most = 0;
  for (const ChannelFigures& channel : channels)
    most = std::max(most, std::fabs(channel.sum) / static_cast<double>(std::max<Frame>(1, frames)));
  return most;
}

bool SoundFigures::isSilent() const { return peak() == 0; }

bool SoundFigures::hasEqualChannels() const {
  return channels.size() > 1 && std::all_of(channels.begin(), channels.end(),
                                            [&](const auto& other) { return other == channels.front(); });
}

FiguresChange changeFrom(const SoundFigures& before, const SoundFigures& after, double toleranceDb) {
  const Frame frames = std::max(before.frames, after.frames);
  FiguresChange change;
  change.isSame = areSame(before.channels, after.channels, frames, toleranceDb);
  if (change.isSame) return change;
  change.isReordered = isReordered(before.channels, after.channels, frames, toleranceDb);
  const ChannelFigures was = together(before), is = together(after);
  change.levelDb = apartDb(was.energy, is.energy);
  if (was.energy > 0 && is.energy > 0) change.shiftFrames = is.moment / is.energy - was.moment / was.energy;
  return change;
}

FiguresMeter::FiguresMeter(int channels, int bits, bool steadyOffset)
    : top_(bits > 0 ? 1.0f - std::ldexp(1.0f, 1 - bits) : std::nextafter(1.0f, 2.0f)),
      bottom_(bits > 0 ? -1.0f : -top_),
      findsOffset_(steadyOffset) {
  figures_.channels.resize(static_cast<std::size_t>(channels));
  flat_.resize(figures_.channels.size());
  stretches_.resize(figures_.channels.size());
}

void FiguresMeter::take(const float* const* channels, Frame frames) {
  Frame first = frames;
  for (std::size_t c = 0; c < figures_.channels.size(); ++c) {
    measure(figures_.channels[c], channels[c], frames);
    if (figures_.onset < 0) lookForOnset(channels[c], frames, first);
    if (figures_.channels[c].peak >= top_) countFlat(c, channels[c], frames);
    if (findsOffset_) followOffset(c, channels[c], frames);
  }
  if (figures_.onset < 0 && first < frames) figures_.onset = figures_.frames + first;
  figures_.frames += frames;
}

/// One after the other, so that the result does not depend on how the sound comes.
void FiguresMeter::measure(ChannelFigures& channel, const float* samples, Frame frames) const {
  double sum = channel.sum, energy = channel.energy, moment = channel.moment;
  float peak = 0;
  auto at = static_cast<double>(figures_.frames);
  for (Frame i = 0; i < frames; ++i, ++at) {
    const double sample = samples[i], square = sample * sample;
    peak = std::max(peak, std::fabs(samples[i]));
    sum += sample;
    energy += square;
    moment += square * at;
  }
  channel = {std::max<double>(channel.peak, peak), sum, energy, moment};
}

void FiguresMeter::lookForOnset(const float* samples, Frame frames, Frame& first) const {
  static const auto kOnset = static_cast<float>(gainOf(kOnsetDb));
  const float* found = std::find_if(samples, samples + std::min(first, frames),
                                    [](float s) { return std::fabs(s) >= kOnset; });
  first = std::min<Frame>(first, found - samples);
}

void FiguresMeter::followOffset(std::size_t channel, const float* samples, Frame frames) {
  constexpr Frame kLeastStretches = 4;
  Stretches& all = stretches_[channel];
  for (Frame at = 0; at < frames;) {
    const Frame taken = (figures_.frames + at) % kOffsetStretch;
    const Frame count = std::min(frames - at, kOffsetStretch - taken);
    for (Frame i = 0; i < count; ++i) all.sum += static_cast<double>(samples[at + i]);
    at += count;
    if (taken + count < kOffsetStretch) break;
    const double mean = std::exchange(all.sum, 0) / static_cast<double>(kOffsetStretch);
    all.least = all.over == 0 ? mean : std::min(all.least, mean);
    all.most = all.over == 0 ? mean : std::max(all.most, mean);
    ++all.over;
  }
  if (all.over < kLeastStretches) return;
  figures_.steadyOffset = 0;
  for (const Stretches& one : stretches_)
    figures_.steadyOffset = std::max({figures_.steadyOffset, one.least, -one.most});
}

void FiguresMeter::countFlat(std::size_t channel, const float* samples, Frame frames) {
  Frame& flat = flat_[channel];
  for (Frame i = 0; i < frames; ++i) {
    flat = samples[i] >= top_ || samples[i] <= bottom_ ? flat + 1 : 0;
    figures_.longestFlat = std::max(figures_.longestFlat, flat);
  }
}

}  // namespace octaphon
