#include "finish/quantise.h"

#include <algorithm>
#include <bit>
#include <cmath>

#include "base/hash.h"
#include "base/samples.h"

namespace octaphon {
namespace {

constexpr Frame kQuickLook = 8;  // frames: most sound is off the grid

// Its bits with a number below 2^22 added count whole ones, rounded halves to even.
constexpr float kRound = 12582912;  // 1.5 · 2^23

/// Finaliser of SplitMix64 (Steele, Lea, Flood 2014): neighbouring numbers become unrelated ones.
std::uint64_t scattered(std::uint64_t value) {
  value = (value ^ (value >> 30)) * 0xBF58476D1CE4E5B9ull;
  value = (value ^ (value >> 27)) * 0x94D049BB133111EBull;
  return value ^ (value >> 31);
}

/// The same for 32 bits (Wellons 2018, lowbias32).
constexpr std::uint32_t scattered32(std::uint32_t value) {
  value = (value ^ (value >> 16)) * 0x7FEB352Du;
  value = (value ^ (value >> 15)) * 0x846CA68Bu;
  return value ^ (value >> 16);
}

/// To whole steps with triangular noise over (−1, 1) steps: the difference of two even distributions of 16
/// bits. Whole steps and what is left of them are apart, so that single precision is enough.
OCTAPHON_WIDE void ditherSteps(const float* in, float scale, std::uint64_t stream, Frame first, int frames,
                               std::int32_t* out) {
  const auto key = static_cast<std::uint32_t>(stream);
  const std::uint32_t from = static_cast<std::uint32_t>(stream >> 32) + static_cast<std::uint32_t>(first);
  for (int i = 0; i < frames; ++i) {
    const std::uint32_t bits = scattered32((from + static_cast<std::uint32_t>(i)) ^ key);
    const std::int32_t noise =
        static_cast<std::int32_t>(bits >> 16) - static_cast<std::int32_t>(bits & 0xFFFF);
    const float steps = in[i] * scale;
    const auto whole = static_cast<std::int32_t>(steps);
    const float left = steps - static_cast<float>(whole) + static_cast<float>(noise) * 0x1p-16f;
    out[i] = whole + (std::bit_cast<std::int32_t>(left + kRound) - std::bit_cast<std::int32_t>(kRound));
  }
}

OCTAPHON_WIDE bool hasZero(const float* in, Frame frames) {
  int any = 0;
  for (Frame i = 0; i < frames; ++i) any |= in[i] == 0 ? 1 : 0;
  return any != 0;
}

}  // namespace

void measure(const float* in, Frame frames, Level& level) {
  constexpr std::int32_t kInfinity = 0x7F800000;
  const std::int32_t largest =
      std::max(std::bit_cast<std::int32_t>(level.peak), largestMagnitudeBits(in, frames));
  level.finite = level.finite && largest < kInfinity;
  level.peak = std::bit_cast<float>(std::min(largest, kInfinity));
}

Quantiser::Quantiser(int bits, std::string_view rowKey, int channel)
    : highest_((1 << (bits - 1)) - 1),
      scale_(std::ldexp(1.0f, bits - 1)),
      stream_(scattered(hash64(rowKey) + static_cast<std::uint64_t>(channel) * 0xD1B54A32D192ED03ull)) {}

void Quantiser::run(const float* in, Frame first, Frame frames, std::int32_t* out, Level& level) const {
  for (Frame at = 0; at < frames; at += kQuantiseCell) {
    const Frame count = std::min(kQuantiseCell, frames - at);
    Level cell;
    measure(in + at, count, cell);
    level.peak = std::max(level.peak, cell.peak);
    level.finite = level.finite && cell.finite;
    if (!level.finite) return;
    const double peak = static_cast<double>(cell.peak) * scale_;
    if (peak <= highest_ && isOnGrid(in + at, std::min(kQuickLook, count)) &&
        takeWholeSamples(in + at, scale_, out + at, count))
      continue;
    if (peak + 2 > highest_)
      saturated(in + at, first + at, count, out + at, level);
    else
      ditherSteps(in + at, scale_, stream_, first + at, static_cast<int>(count), out + at);
    clearSilence(in + at, count, out + at);
  }
}

bool Quantiser::isOnGrid(const float* in, Frame frames) const {
  return std::all_of(in, in + frames,
                     [this](float sample) { return std::nearbyint(sample * scale_) == sample * scale_; });
}

/// Of a cell that may be over full scale.
void Quantiser::saturated(const float* in, Frame first, Frame frames, std::int32_t* out, Level& level) const {
  float fits[kQuantiseCell];  // still over it where it was, and small enough for whole numbers
  for (Frame i = 0; i < frames; ++i) fits[i] = std::clamp(in[i], -2.0f, 2.0f);
  if (isOnGrid(fits, frames))
    (void)takeWholeSamples(fits, scale_, out, frames);
  else
    ditherSteps(fits, scale_, stream_, first, static_cast<int>(frames), out);
  for (Frame i = 0; i < frames; ++i) {
    const std::int32_t kept = std::clamp(out[i], -highest_ - 1, highest_);
    level.clipped += kept != out[i] ? 1u : 0u;
    out[i] = kept;
  }
}

/// Runs of exact zero stay that; so do shorter ones at the edges of the cell, which may go on behind them.
void Quantiser::clearSilence(const float* in, Frame frames, std::int32_t* out) {
  if (!hasZero(in, frames)) return;
  for (Frame i = 0; i < frames; ++i) {
    if (in[i] != 0) continue;
    Frame zeros = 1;
    while (i + zeros < frames && in[i + zeros] == 0) ++zeros;
    if (zeros >= kZeroRun || i == 0 || i + zeros == frames) std::fill_n(out + i, zeros, 0);
    i += zeros;
  }
}

}  // namespace octaphon
