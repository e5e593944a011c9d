#include "finish/quantise.h"

#include <algorithm>
#include <cfloat>
#include <cmath>

#include "base/hash.h"

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

/// Difference of two even distributions: triangular over (−1, 1).
double triangular(std::uint64_t stream, Frame frame) {
  const std::uint64_t bits = scattered(stream + static_cast<std::uint64_t>(frame) * 0x9E3779B97F4A7C15ull);
  const double a = static_cast<double>(bits >> 32);
  const double b = static_cast<double>(bits & 0xFFFFFFFFu);
  return (a - b) * (1.0 / 4294967296.0);
}

bool isOnGrid(const float* in, Frame frames, double scale) {
  int off = 0;
  for (Frame i = 0; i < frames; ++i) {
    const double value = in[i] * scale;
    off |= rounded(value) != value;
  }
  return off == 0;
}

std::int32_t saturated(double value, double highest, Level& level) {
  const double kept = std::clamp(value, -highest - 1, highest);
  if (kept != value) ++level.clipped;
  return static_cast<std::int32_t>(kept);
}

}  // namespace

void measure(const float* in, Frame frames, Level& level) {
  float peak = level.peak;
  int bad = 0;
  for (Frame i = 0; i < frames; ++i) {
    const float magnitude = std::fabs(in[i]);
    bad |= !(magnitude <= FLT_MAX);
    peak = magnitude > peak ? magnitude : peak;
  }
  level.peak = peak;
  level.finite = level.finite && bad == 0;
}

Quantiser::Quantiser(int bits, std::string_view rowKey, int channel)
    : scale_(std::ldexp(1.0, bits - 1)),
      highest_(scale_ - 1),
      stream_(scattered(hash64(rowKey) + static_cast<std::uint64_t>(channel) * 0xD1B54A32D192ED03ull)) {}

void Quantiser::run(const float* in, Frame first, Frame frames, std::int32_t* out, int stride, Level& level) const {
  measure(in, frames, level);
  if (!level.finite) return;
  for (Frame at = 0; at < frames; at += kQuantiseCell) {
    const Frame count = std::min(kQuantiseCell, frames - at);
    std::int32_t* target = out + at * stride;
    if (!isOnGrid(in + at, count, scale_)) {
      dithered(in + at, first + at, count, target, stride, level);
      continue;
    }
    for (Frame i = 0; i < count; ++i) target[i * stride] = saturated(in[at + i] * scale_, highest_, level);
  }
}

void Quantiser::dithered(const float* in, Frame first, Frame frames, std::int32_t* out, int stride, Level& level) const {
  for (Frame i = 0; i < frames;) {
    Frame zeros = 0;
    while (i + zeros < frames && in[i + zeros] == 0) ++zeros;
    const bool isRun = zeros >= kZeroRun || (zeros > 0 && (i == 0 || i + zeros == frames));
    if (isRun) {
      for (Frame z = 0; z < zeros; ++z) out[(i + z) * stride] = 0;
      i += zeros;
      continue;
    }
    for (const Frame end = i + std::max<Frame>(1, zeros); i < end; ++i)
      out[i * stride] = saturated(rounded(in[i] * scale_ + triangular(stream_, first + i)), highest_, level);
  }
}

}  // namespace octaphon
