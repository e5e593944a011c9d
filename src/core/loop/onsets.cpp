#include "loop/onsets.h"

#include <kissfft/kiss_fftr.h>

#include <array>
#include <cmath>
#include <memory>
#include <numbers>
#include <numeric>

#include "base/samples.h"

namespace octaphon {
namespace {

constexpr Frame kHop = 128;  // at rates up to 50 kHz
constexpr Frame kWindowHops = 4;
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

OCTAPHON_WIDE void findMagnitudes(const kiss_fft_cpx* in, float* __restrict out, std::size_t bins) {
  for (std::size_t i = 0; i < bins; ++i) out[i] = std::sqrt(in[i].r * in[i].r + in[i].i * in[i].i);
}

/// In lanes, so that it does not wait for itself.
float sumOf(const float* values, std::size_t count) {
  constexpr std::size_t kLanes = 8;
  std::array<float, kLanes> lanes{};
  std::size_t i = 0;
  for (; i + kLanes <= count; i += kLanes)
    for (std::size_t lane = 0; lane < kLanes; ++lane) lanes[lane] += values[i + lane];
  for (; i < count; ++i) lanes[0] += values[i];
  return std::accumulate(lanes.begin(), lanes.end(), 0.0f);
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
        out_(static_cast<std::size_t>(size_ / 2 + 1)),
        magnitude_(out_.size()) {}

  void add(const std::vector<float>& channel, std::vector<BandValues>& bands) {
    const auto frames = static_cast<Frame>(channel.size());
    for (std::size_t step = 0; step < bands.size(); ++step) {
      Frame at = ((static_cast<Frame>(step) * hop_ - size_ / 2) % frames + frames) % frames;
      for (Frame done = 0; done < size_; at = 0) {
        const Frame count = std::min(size_ - done, frames - at);
        for (Frame i = 0; i < count; ++i)
          in_[static_cast<std::size_t>(done + i)] =
              channel[static_cast<std::size_t>(at + i)] * window_[static_cast<std::size_t>(done + i)];
        done += count;
      }
      kiss_fftr(fft_.get(), in_.data(), out_.data());
      findMagnitudes(out_.data(), magnitude_.data(), out_.size());
      for (std::size_t band = 0; band < kOnsetBands; ++band)
        bands[step][band] += static_cast<double>(sumOf(magnitude_.data() + (1u << band), 1u << band));
    }
  }

 private:
  struct Free {
    void operator()(kiss_fftr_state* fft) const { kiss_fftr_free(fft); }
  };
  Frame hop_, size_;
  std::vector<float> window_;
  std::unique_ptr<kiss_fftr_state, Free> fft_;
  std::vector<float> in_;
  std::vector<kiss_fft_cpx> out_;
  std::vector<float> magnitude_;
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
  onsets.splice = lap.splice / onsets.hop;
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
