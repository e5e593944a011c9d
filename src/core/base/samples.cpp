#include "base/samples.h"

#include <algorithm>
#include <bit>
#include <cstring>

namespace octaphon {

OCTAPHON_WIDE void addSamples(double* total, const float* in, Frame frames) {
  for (Frame i = 0; i < frames; ++i) total[i] += in[i];
}

OCTAPHON_WIDE void addSamples(double* total, const float* const* in, std::size_t count, Frame frames) {
  std::size_t next = 0;
  for (; next + 4 <= count; next += 4) {
    const float *a = in[next], *b = in[next + 1], *c = in[next + 2], *d = in[next + 3];
    for (Frame i = 0; i < frames; ++i) total[i] = total[i] + a[i] + b[i] + c[i] + d[i];
  }
  for (; next < count; ++next)
    for (Frame i = 0; i < frames; ++i) total[i] += in[next][i];
}

OCTAPHON_WIDE void subtractSamples(double* total, const float* in, Frame frames) {
  for (Frame i = 0; i < frames; ++i) total[i] -= in[i];
}

OCTAPHON_WIDE void scaleSamples(const float* in, float gain, float* out, Frame frames) {
  for (Frame i = 0; i < frames; ++i) out[i] = in[i] * gain;
}

OCTAPHON_WIDE void roundSamples(const double* in, float* out, Frame frames) {
  for (Frame i = 0; i < frames; ++i) out[i] = static_cast<float>(in[i]);
}

OCTAPHON_WIDE bool takeWholeSamples(const float* in, float scale, std::int32_t* out, Frame frames) {
  int off = 0;
  for (Frame i = 0; i < frames; ++i) {
    const float value = in[i] * scale;
    const auto whole = static_cast<std::int32_t>(value);
    off |= static_cast<float>(whole) != value;
    out[i] = whole;
  }
  return off == 0;
}

OCTAPHON_WIDE double sumOfSamples(const float* in, Frame frames) {
  constexpr Frame kLanes = 8;
  double lanes[kLanes] = {};
  Frame i = 0;
  for (; i + kLanes <= frames; i += kLanes)
    for (Frame lane = 0; lane < kLanes; ++lane) lanes[lane] += in[i + lane];
  double sum = 0;
  for (; i < frames; ++i) sum += in[i];
  for (const double lane : lanes) sum += lane;
  return sum;
}

OCTAPHON_WIDE double productOfSamples(const float* a, const float* b, Frame frames) {
  constexpr Frame kLanes = 16;
  float lanes[kLanes] = {};
  Frame i = 0;
  for (; i + kLanes <= frames; i += kLanes)
    for (Frame lane = 0; lane < kLanes; ++lane) lanes[lane] += a[i + lane] * b[i + lane];
  double sum = 0;
  for (const float lane : lanes) sum += static_cast<double>(lane);
  for (; i < frames; ++i) sum += static_cast<double>(a[i]) * static_cast<double>(b[i]);
  return sum;
}

OCTAPHON_WIDE void floatsOf16(const unsigned char* packed, float* out, Frame samples) {
  for (Frame i = 0; i < samples; ++i) {
    std::int16_t whole;
    std::memcpy(&whole, packed + 2 * i, sizeof whole);
    out[i] = static_cast<float>(whole) * 0x1p-15f;
  }
}

OCTAPHON_SHUFFLED void floatsOf24(const unsigned char* packed, float* out, Frame samples) {
  using Bytes = unsigned char __attribute__((vector_size(16)));
  using Wholes = std::int32_t __attribute__((vector_size(16)));
  using Floats = float __attribute__((vector_size(16)));
  Frame i = 0;
  for (; 3 * (samples - i) >= static_cast<Frame>(sizeof(Bytes)); i += 4) {
    Bytes bytes;
    std::memcpy(&bytes, packed + 3 * i, sizeof bytes);
    // Each behind a zero, which is the first of the second vector.
    const Bytes raised =
        __builtin_shufflevector(bytes, Bytes{}, 16, 0, 1, 2, 16, 3, 4, 5, 16, 6, 7, 8, 16, 9, 10, 11);
    Wholes wholes;
    std::memcpy(&wholes, &raised, sizeof wholes);
    const Floats floats = __builtin_convertvector(wholes, Floats) * 0x1p-31f;
    std::memcpy(out + i, &floats, sizeof floats);
  }
  for (; i < samples; ++i) {
    std::uint32_t whole = 0;
    std::memcpy(reinterpret_cast<unsigned char*>(&whole) + 1, packed + 3 * i, 3);
    out[i] = static_cast<float>(static_cast<std::int32_t>(whole)) * 0x1p-31f;
  }
}

OCTAPHON_WIDE bool hasMinusZero(const float* in, Frame frames) {
  int found = 0;
  for (Frame i = 0; i < frames; ++i) found |= std::bit_cast<std::uint32_t>(in[i]) == 0x80000000u;
  return found != 0;
}

OCTAPHON_WIDE void extendRange(const float* in, Frame frames, float& least, float& most) {
  constexpr Frame kLanes = 8;
  float low[kLanes], high[kLanes];
  std::fill_n(low, kLanes, least);
  std::fill_n(high, kLanes, most);
  Frame i = 0;
  for (; i + kLanes <= frames; i += kLanes)
    for (Frame lane = 0; lane < kLanes; ++lane) {
      low[lane] = in[i + lane] < low[lane] ? in[i + lane] : low[lane];
      high[lane] = in[i + lane] > high[lane] ? in[i + lane] : high[lane];
    }
  for (; i < frames; ++i) {
    low[0] = std::min(low[0], in[i]);
    high[0] = std::max(high[0], in[i]);
  }
  least = *std::min_element(low, low + kLanes);
  most = *std::max_element(high, high + kLanes);
}

OCTAPHON_WIDE std::int32_t largestMagnitudeBits(const float* in, Frame frames) {
  std::int32_t largest = 0;
  for (Frame i = 0; i < frames; ++i)
    largest = std::max(largest, std::bit_cast<std::int32_t>(in[i]) & 0x7FFFFFFF);
  return largest;
}

}  // namespace octaphon
