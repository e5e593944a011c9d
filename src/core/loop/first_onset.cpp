#include "loop/first_onset.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace octaphon {
namespace {

constexpr Frame kBeforeMs = 100, kBehindMs = 250;
constexpr std::size_t kCompared = 8;  // cells of a millisecond
constexpr double kRise = 10;          // ten times the energy: 10 dB
constexpr double kFloor = 1e-4;       // of the loudest cell's: 40 dB below it, where nothing begins
constexpr double kOfPeak = 0.1;       // of the onset's own peak: its first sample
constexpr double kSilence = 1e-10;

/// Energy of all channels, millisecond by millisecond.
std::vector<double> energies(const Lap& sound, Frame from, Frame cell, std::size_t cells) {
  std::vector<double> energy(cells, 0.0);
  for (const std::vector<float>& channel : sound.channels)
    for (std::size_t i = 0; i < cells; ++i)
      for (Frame frame = 0; frame < cell; ++frame) {
        const Frame at = from + static_cast<Frame>(i) * cell + frame;
        if (at < 0 || at >= sound.frames()) continue;
        const auto value = static_cast<double>(channel[static_cast<std::size_t>(at)]);
        energy[i] += value * value;
      }
  return energy;
}

/// The first frame from one on that has a share of the most there.
Frame firstLoud(const Lap& sound, Frame from, Frame to) {
  const auto loudAt = [&](Frame frame) {
    float loudest = 0;
    for (const std::vector<float>& channel : sound.channels)
      loudest = std::max(loudest, std::fabs(channel[static_cast<std::size_t>(frame)]));
    return static_cast<double>(loudest);
  };
  from = std::max<Frame>(0, from);
  to = std::min(to, sound.frames());
  double peak = 0;
  for (Frame frame = from; frame < to; ++frame) peak = std::max(peak, loudAt(frame));
  while (from < to && loudAt(from) < kOfPeak * peak) ++from;
  return from;
}

}  // namespace

std::optional<double> firstOnsetMs(const Lap& sound, Frame downbeat) {
  const Frame cell = std::max(1, sound.rate / 1000);
  const Frame from = downbeat - (kBeforeMs + static_cast<Frame>(kCompared)) * cell;
  const std::size_t cells = kBeforeMs + kBehindMs + kCompared;
  const std::vector<double> energy = energies(sound, from, cell, cells);
  const double loudest = *std::max_element(energy.begin(), energy.end());
  if (loudest < kSilence) return std::nullopt;
  double before = 0;
  for (std::size_t i = 0; i < kCompared; ++i) before += energy[i] / kCompared;
  for (std::size_t i = kCompared; i < cells; ++i) {
    if (energy[i] > kRise * (before + kFloor * loudest)) {
      const Frame begins = from + static_cast<Frame>(i) * cell;
      const Frame first = firstLoud(sound, begins - cell / 2, begins + 3 * cell);
      return 1000.0 * static_cast<double>(first - downbeat) / sound.rate;
    }
    before = std::max(0.0, before + (energy[i] - energy[i - kCompared]) / kCompared);
  }
  return std::nullopt;
}

}  // namespace octaphon
