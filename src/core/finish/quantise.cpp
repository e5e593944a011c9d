#include "finish/quantise.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <cstring>

#include "base/hash.h"
#include "base/samples.h"

namespace octaphon {
namespace {

// Adding and taking it away rounds a double below 2^51 to a whole number, halves to even.
constexpr double kRound = 6755399441055744.0;  // 1.5 · 2^52

double rounded(double value) { return (value + kRound) - kRound; }

/// Finaliser of SplitMix64 (Steele, Lea, Flood 2014): neighbouring numbers become unrelated ones.
std::uint64_t scattered(std::uint64_t value) {
  value = (value ^ (value >> 30)) * 0xBF58476D1CE4E5B9ull;
  value = (value ^ (value >> 27)) * 0x94D049BB133111EBull;
  return value ^ (value >> 31);
}

/// Triangular noise over (−1, 1) steps for a cell: the difference of two even distributions of 16 bits. One
/// scattered number serves two frames.
OCTAPHON_WIDE void triangular(std::uint64_t stream, Frame first, Frame frames, double* noise) {
  std::uint64_t bits[kQuantiseCell / 2];
  const Frame pairs = (frames + 1) / 2;
  for (Frame i = 0; i < pairs; ++i)
    bits[i] = scattered(stream + static_cast<std::uint64_t>(first + 2 * i) * 0x9E3779B97F4A7C15ull);
  std::uint16_t even[2 * kQuantiseCell];  // two for each frame
  std::memcpy(even, bits, static_cast<std::size_t>(pairs) * sizeof *bits);
  for (Frame i = 0; i < frames; ++i) {
    const std::int32_t whole =
        static_cast<std::int32_t>(even[2 * i]) - static_cast<std::int32_t>(even[2 * i + 1]);
    noise[i] = whole * (1.0 / 65536.0);
  }
}

/// In steps, with noise, to whole ones.
OCTAPHON_WIDE void roundSteps(const float* in, double scale, Frame frames, double* value) {
  for (Frame i = 0; i < frames; ++i) value[i] = rounded(static_cast<double>(in[i]) * scale + value[i]);
}

OCTAPHON_WIDE void asIntegers(const double* value, Frame frames, std::int32_t* out) {
  for (Frame i = 0; i < frames; ++i) out[i] = static_cast<std::int32_t>(value[i]);
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
    : scale_(std::ldexp(1.0, bits - 1)),
      highest_(scale_ - 1),
      stream_(scattered(hash64(rowKey) + static_cast<std::uint64_t>(channel) * 0xD1B54A32D192ED03ull)) {}

void Quantiser::run(const float* in, Frame first, Frame frames, std::int32_t* out, Level& level) const {
  for (Frame at = 0; at < frames; at += kQuantiseCell) {
    const Frame count = std::min(kQuantiseCell, frames - at);
    Level cell;
    measure(in + at, count, cell);
    level.peak = std::max(level.peak, cell.peak);
    level.finite = level.finite && cell.finite;
    if (!level.finite) return;
    const bool fits = cell.peak * scale_ <= highest_;
    if (fits && takeWholeSamples(in + at, static_cast<float>(scale_), out + at, count)) continue;
    dithered(in + at, first + at, count, out + at, cell.peak * scale_ + 2 > highest_ ? &level : nullptr);
  }
}

bool Quantiser::isOnGrid(const float* in, Frame frames) const {
  return std::all_of(in, in + frames,
                     [this](float sample) { return rounded(sample * scale_) == sample * scale_; });
}

void Quantiser::dithered(const float* in, Frame first, Frame frames, std::int32_t* out, Level* clips) const {
  double value[kQuantiseCell];
  if (isOnGrid(in, frames))
    std::fill_n(value, frames, 0.0);  // it is only saturated
  else
    triangular(stream_, first, frames, value);
  roundSteps(in, scale_, frames, value);
  for (Frame i = 0; i < frames && clips != nullptr; ++i) {
    const double kept = std::clamp(value[i], -highest_ - 1, highest_);
    clips->clipped += kept != value[i] ? 1u : 0u;
    value[i] = kept;
  }
  asIntegers(value, frames, out);
  clearSilence(in, frames, out);
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
