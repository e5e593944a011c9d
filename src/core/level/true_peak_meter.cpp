#include "level/true_peak_meter.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <cstdint>

#include "base/samples.h"
#include "level/polyphase.h"

namespace octaphon {
namespace {

constexpr std::size_t kTaps = 32, kManyTaps = 128;
constexpr Frame kTurn = 32;
constexpr Frame kHeld = 32 * kTurn;                // frames that are looked at one turn after the other
constexpr Frame kBefore = kManyTaps;               // frames in front of them
constexpr Frame kBehind = kManyTaps / 2;           // those that its middle lies behind the newest sample
constexpr Frame kShift = (kManyTaps - kTaps) / 2;  // shorter filters have theirs nearer by
constexpr Frame kShortShift = (kManyTaps - kShortTaps) / 2;
constexpr float kWorthComing = 0.6f;         // of the largest so far, at half-way places: −4.4 dB
constexpr float kWorthLooking = 0.7f;        // −3.1 dB
constexpr float kWorthLookingAgain = 0.85f;  // −1.4 dB

/// Modified, of the first kind and order 0 (Abramowitz & Stegun, 9.6.12).
double bessel(double x) {
  double term = 1, sum = 1;
  for (int k = 1; term > 1e-12 * sum; ++k) term *= x * x / 4 / (k * k), sum += term;
  return sum;
}

template <std::size_t kCount>
PhaseTaps<kCount> kaiserTaps(double beta) {
  return windowedSinc<kCount>([&](int place, int length) {
    const double x = 2.0 * place / length - 1;
    return bessel(beta * std::sqrt(1 - x * x)) / bessel(beta);
  });
}
const PhaseTaps<kTaps>& longTaps() {
  static const auto taps = kaiserTaps<kTaps>(8);
  return taps;
}
const PhaseTaps<kManyTaps>& longestTaps() {
  static const auto taps = kaiserTaps<kManyTaps>(6);
  return taps;
}

/// The largest magnitude of a turn and between its samples, about.
float roughlyLargest(const float* in) {
  std::array<float, kTurn> peaks{};
  raisePeaks(in, kTurn, peaks.data());
  return std::bit_cast<float>(largestMagnitudeBits(peaks.data(), kTurn));
}

/// Phases 1 … 3 of a turn, planar.
OCTAPHON_WIDE void allPhases(const PhaseTaps<kTaps>& taps, const float* in, float* out) {
  static_assert(kTurn % kPhaseLanes == 0);
  for (Frame at = 0; at < kTurn; at += kPhaseLanes) {
    PhaseLanes phases[kPhases - 1];
    phasesOf(taps, in + at, phases);
    for (Frame p = 0; p < kPhases - 1; ++p) std::memcpy(out + p * kTurn + at, &phases[p], sizeof(PhaseLanes));
  }
}

/// All four phases of a turn in their order.
std::array<float, kPhases * kTurn> fourTimes(const float* in) {
  std::array<float, (kPhases - 1) * kTurn> phases;
  allPhases(longTaps(), in, phases.data());
  std::array<float, kPhases * kTurn> all;
  std::size_t next = 0;
  for (Frame i = 0; i < kTurn; ++i) {
    all[next++] = in[i - static_cast<Frame>(kTaps) / 2];
    for (Frame p = 0; p < kPhases - 1; ++p) all[next++] = phases[static_cast<std::size_t>(p * kTurn + i)];
  }
  return all;
}

/// One of four times as many samples; `place` from the turn's first one on, may be before it or behind.
float exactly(const float* turn, Frame place) {
  const Frame frame = (place + kPhases) / kPhases - 1, phase = place - frame * kPhases;
  if (phase == 0) return turn[frame - kBehind];
  const auto& taps = longestTaps()[static_cast<std::size_t>(phase - 1)];
  float sum = 0;
  for (std::size_t t = 0; t < kManyTaps; ++t) sum += taps[t] * turn[frame - static_cast<Frame>(t)];
  return sum;
}

/// The magnitude at the top of a parabola through three places around `place`.
float topAt(const float* turn, Frame place) {
  const float middle = exactly(turn, place), sign = middle < 0 ? -1.0f : 1.0f;
  const float before = sign * exactly(turn, place - 1), behind = sign * exactly(turn, place + 1);
  const float height = sign * middle, bend = 2 * height - before - behind, lean = behind - before;
  if (height < before || height < behind || bend <= 0) return std::max({height, before, behind});
  return height + lean * lean / (8 * bend);
}

}  // namespace

TruePeakMeter::TruePeakMeter(int channels)
    : channels_(channels), samples_(static_cast<std::size_t>(channels * (kBefore + kHeld)), 0.0f) {}

void TruePeakMeter::take(const float* const* channels, Frame frames) {
  for (Frame done = 0; done < frames;) {
    const Frame count = std::min(kHeld - held_, frames - done);
    for (int c = 0; c < channels_; ++c) {
      float* to = samples_.data() + c * (kBefore + kHeld) + kBefore + held_;
      if (channels == nullptr)
        std::fill_n(to, count, 0.0f);
      else
        std::copy_n(channels[c] + done, count, to);
    }
    held_ += count;
    done += count;
    if (held_ == kHeld) look();
  }
}

void TruePeakMeter::end() {
  take(nullptr, kManyTaps);
  take(nullptr, (kTurn - held_ % kTurn) % kTurn);
  look();
}

void TruePeakMeter::look() {
  for (int c = 0; c < channels_; ++c) {
    float* const all = samples_.data() + c * (kBefore + kHeld);
    for (Frame at = 0; at < held_; at += kTurn) lookAt(all + kBefore + at);
    std::copy(all + held_, all + held_ + kBefore, all);
  }
  held_ = 0;
}

void TruePeakMeter::lookAt(const float* turn) {
  if (largestByHalves(turn - kShortShift, kTurn) <= kWorthComing * peak_) return;
  if (roughlyLargest(turn - kShortShift) < kWorthLooking * peak_) return;
  const auto samples = fourTimes(turn - kShift);
  const auto magnitude = [&](std::size_t i) { return i < samples.size() ? std::fabs(samples[i]) : 0; };
  for (std::size_t i = 0; i < samples.size(); ++i) {
    const float here = magnitude(i);
    if (here > kWorthLookingAgain * peak_ && here >= magnitude(i - 1) && here >= magnitude(i + 1))
      peak_ = std::max(peak_, topAt(turn, static_cast<Frame>(i)));
  }
}

}  // namespace octaphon
