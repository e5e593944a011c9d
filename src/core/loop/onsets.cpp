#include "loop/onsets.h"

#include <kissfft/kiss_fftr.h>

#include <cmath>
#include <memory>
#include <numbers>

namespace octaphon {
namespace {

constexpr Frame kHop = 128;  // at rates up to 50 kHz
constexpr Frame kWindowHops = 8;
constexpr double kLoudness = 200;  // the largest magnitude, for the logarithm
constexpr Frame kBack = 2;         // steps that a rise is taken over

Frame hopFor(int rate) {
  Frame hop = kHop;
  for (int r = rate; r > 50000; r /= 2) hop *= 2;
  return hop;
}

std::vector<float> hannWindow(Frame size) {
  std::vector<float> window(static_cast<std::size_t>(size));
  for (std::size_t i = 0; i < window.size(); ++i)
    window[i] = static_cast<float>(
        0.5 - 0.5 * std::cos(2 * std::numbers::pi * static_cast<double>(i) / static_cast<double>(size - 1)));
  return window;
}

/// Magnitudes of one channel, added to the bands of each step.
class BandAdder {
 public:
  explicit BandAdder(Frame hop)
      : hop_(hop),
        size_(hop * kWindowHops),
        window_(hannWindow(size_)),
        fft_(kiss_fftr_alloc(static_cast<int>(size_), 0, nullptr, nullptr)),
        in_(static_cast<std::size_t>(size_)),
        out_(static_cast<std::size_t>(size_ / 2 + 1)) {}

  void add(const std::vector<float>& channel, std::vector<BandValues>& bands) {
    const auto frames = static_cast<Frame>(channel.size());
    for (std::size_t step = 0; step < bands.size(); ++step) {
      Frame at = ((static_cast<Frame>(step) * hop_ - size_ / 2) % frames + frames) % frames;
      for (std::size_t i = 0; i < in_.size(); ++i) {
        in_[i] = channel[static_cast<std::size_t>(at)] * window_[i];
        if (++at == frames) at = 0;
      }
      kiss_fftr(fft_.get(), in_.data(), out_.data());
      for (std::size_t band = 0; band < kOnsetBands; ++band)
        for (std::size_t bin = 2u << band; bin < (4u << band); ++bin)
          bands[step][band] += magnitudeOf(out_[bin]);
    }
  }

 private:
  struct Free {
    void operator()(kiss_fftr_state* fft) const { kiss_fftr_free(fft); }
  };
  static double magnitudeOf(const kiss_fft_cpx& value) {
    return static_cast<double>(std::sqrt(value.r * value.r + value.i * value.i));
  }
  Frame hop_, size_;
  std::vector<float> window_;
  std::unique_ptr<kiss_fftr_state, Free> fft_;
  std::vector<float> in_;
  std::vector<kiss_fft_cpx> out_;
};

double energyOf(const std::vector<float>& samples) {
  double energy = 0;
  for (const float sample : samples) energy += static_cast<double>(sample) * static_cast<double>(sample);
  return energy;
}

/// All channels together, which costs a spectrum instead of many; each for itself where they cancel.
std::vector<std::vector<float>> heardTogether(const Lap& lap) {
  if (lap.channels.size() < 2) return lap.channels;
  std::vector<float> sum(static_cast<std::size_t>(lap.frames()), 0.0f);
  double all = 0;
  for (const std::vector<float>& channel : lap.channels) {
    for (std::size_t i = 0; i < sum.size(); ++i) sum[i] += channel[i];
    all += energyOf(channel);
  }
  constexpr double kCancelled = 0.5;
  if (energyOf(sum) < kCancelled * all) return lap.channels;
  return {std::move(sum)};
}

double largestOf(const std::vector<BandValues>& bands) {
  double largest = 0;
  for (const BandValues& values : bands)
    for (const double value : values) largest = std::max(largest, value);
  return largest;
}

void findRises(Onsets& onsets) {
  const double scale = kLoudness / (largestOf(onsets.magnitude) + 1e-12);
  std::vector<BandValues> logs(onsets.magnitude.size());
  for (std::size_t step = 0; step < logs.size(); ++step)
    for (std::size_t band = 0; band < kOnsetBands; ++band)
      logs[step][band] = std::log1p(onsets.magnitude[step][band] * scale);
  for (Frame step = 0; step < static_cast<Frame>(logs.size()); ++step) {
    const BandValues& now = logs[static_cast<std::size_t>(step)];
    const BandValues& before = logs[onsets.wrapped(step - kBack)];
    BandValues& rise = onsets.rise[static_cast<std::size_t>(step)];
    double& strength = onsets.strength[static_cast<std::size_t>(step)];
    for (std::size_t band = 0; band < kOnsetBands; ++band)
      strength += rise[band] = std::max(0.0, now[band] - before[band]);
  }
}

}  // namespace

double Onsets::atJoin(Frame reach) const {
  double strongest = 0;
  for (Frame step = -reach; step <= reach && steps() > 0; ++step)
    strongest = std::max(strongest, strength[wrapped(step)]);
  return strongest;
}

Onsets onsetsOf(const Lap& lap) {
  Onsets onsets;
  onsets.hop = hopFor(lap.rate);
  onsets.hopSeconds = static_cast<double>(onsets.hop) / lap.rate;
  const auto steps = static_cast<std::size_t>(lap.frames() / onsets.hop);
  onsets.magnitude.resize(steps);
  onsets.rise.resize(steps);
  onsets.strength.resize(steps, 0.0);
  BandAdder adder(onsets.hop);
  for (const std::vector<float>& channel : heardTogether(lap)) adder.add(channel, onsets.magnitude);
  findRises(onsets);
  return onsets;
}

}  // namespace octaphon
