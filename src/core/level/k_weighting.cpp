#include "level/k_weighting.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <numbers>

#include "base/samples.h"

namespace octaphon {

WeightingSection headShelf(int rate) {
  constexpr double kHertz = 1681.974450955533, kQ = 0.7071752369554196, kDb = 3.999843853973347;
  const double k = std::tan(std::numbers::pi * kHertz / rate);
  const double high = std::pow(10.0, kDb / 20), band = std::pow(high, 0.4996667741545416);
  const double a0 = 1 + k / kQ + k * k;
  return {(high + band * k / kQ + k * k) / a0, 2 * (k * k - high) / a0, (high - band * k / kQ + k * k) / a0,
          2 * (k * k - 1) / a0, (1 - k / kQ + k * k) / a0};
}

WeightingSection lowHighPass(int rate) {
  constexpr double kHertz = 38.13547087602444, kQ = 0.5003270373238773;
  const double k = std::tan(std::numbers::pi * kHertz / rate);
  const double a0 = 1 + k / kQ + k * k;
  return {1, -2, 1, 2 * (k * k - 1) / a0, (1 - k / kQ + k * k) / a0};
}

KWeighting::Scattered KWeighting::scatteredOf(const WeightingSection& section) {
  return {2 * section.a2 - section.a1 * section.a1, section.a2 * section.a2};
}

KWeighting::KWeighting(int rate)
    : isSingle_(rate <= 96000),
      shelf_(scatteredOf(headShelf(rate))),
      highPass_(scatteredOf(lowHighPass(rate))) {
  const WeightingSection shelf = headShelf(rate), highPass = lowHighPass(rate);
  taps_ = {shelf.b0, shelf.b1, shelf.b2};
  for (const WeightingSection& section : {shelf, highPass})
    for (std::size_t t = kTaps; t-- > 1;)
      taps_[t] += (t > 1 ? section.a2 * taps_[t - 2] : 0) - section.a1 * taps_[t - 1];
  std::copy(taps_.begin(), taps_.end(), singleTaps_.begin());
}

void KWeighting::addSquares(const float* first, const float* second, Frame frames, double* sums) {
  if (isSingle_)
    addSquaresBy(singleTaps_.data(), first, second, frames, sums);
  else
    addSquaresBy(taps_.data(), first, second, frames, sums);
}

template <class Sample>
void KWeighting::addSquaresBy(const Sample* taps, const float* first, const float* second, Frame frames,
                              double* sums) {
  std::array<std::array<Sample, kTurn>, 2> filtered;
  for (Frame done = 0; done < frames; done += kTurn) {
    const Frame count = std::min(kTurn, frames - done);
    zeros(taps, 0, first + done, count, filtered[0].data());
    zeros(taps, 1, second + done, count, filtered[1].data());
    poles(filtered[0].data(), filtered[1].data(), count, sums);
  }
}

/// What is above the line, of one channel: the first frames behind what came before, the others where they
/// are.
template <class Sample>
void KWeighting::zeros(const Sample* taps, int channel, const float* samples, Frame frames, Sample* out) {
  auto& before = before_[static_cast<std::size_t>(channel)];
  const Frame first = std::min(kBefore, frames);
  std::array<float, 2 * kBefore> joined{};
  std::copy(before.begin(), before.end(), joined.begin());
  std::copy_n(samples, first, joined.begin() + kBefore);
  filter(joined.data() + kBefore, taps, first, out);
  if (frames > first) filter(samples + first, taps, frames - first, out + first);
  std::copy_n(frames > kBefore ? samples + frames - kBefore : joined.data() + first, kBefore, before.begin());
}

namespace {

/// Hears `kPast` + 2 samples before `in`.
template <std::size_t kPast, std::size_t kMost, class Sample>
inline __attribute__((always_inline)) void filterBy(const float* in, const Sample* taps, int frames,
                                                    Sample* out) {
  static_assert(kPast == 6);
  Sample differences[kPast + kMost];
  for (int i = 0; i < static_cast<int>(kPast) + frames; ++i) {
    const float* const x = in + i - kPast;
    differences[i] = (x[0] - x[-1]) - (x[-1] - x[-2]);
  }
  for (int i = 0; i < frames; ++i) {
    const Sample* const d = differences + kPast + i;
    out[i] = ((taps[0] * d[0] + taps[1] * d[-1]) + (taps[2] * d[-2] + taps[3] * d[-3])) +
             ((taps[4] * d[-4] + taps[5] * d[-5]) + taps[6] * d[-6]);
  }
}

}  // namespace

OCTAPHON_WIDE void KWeighting::filter(const float* in, const float* taps, Frame frames, float* out) {
  filterBy<kTaps - 1, kTurn>(in, taps, static_cast<int>(frames), out);
}
OCTAPHON_WIDE void KWeighting::filter(const float* in, const double* taps, Frame frames, double* out) {
  filterBy<kTaps - 1, kTurn>(in, taps, static_cast<int>(frames), out);
}

/// What is under the line, and the squares.
template <class Sample>
inline __attribute__((always_inline)) void KWeighting::polesBy(const Sample* first, const Sample* second,
                                                               Frame frames, double* sums) {
  typedef Sample Frames __attribute__((vector_size(4 * sizeof(Sample))));  // `using` takes none that depends
  using Pair = double __attribute__((vector_size(16)));
  using Lanes = double __attribute__((vector_size(32)));
  const Lanes unity{1, 1, 1, 1};
  const Lanes near1 = unity * shelf_.near, far1 = unity * shelf_.far;
  const Lanes near2 = unity * highPass_.near, far2 = unity * highPass_.far;
  Lanes y1, y2, z1, z2;
  const auto eachPast = [&](const auto& go) {
    go(y1, shelved_.latest), go(y2, shelved_.older), go(z1, passed_.latest), go(z2, passed_.older);
  };
  eachPast([](Lanes& lanes, const TwoFrames& past) { std::memcpy(&lanes, past.data(), sizeof lanes); });
  Lanes squares{sums[0], sums[1], 0, 0};
  Frame i = 0;
  for (; i + 4 <= frames; i += 4) {
    Frames left, right;
    std::memcpy(&left, first + i, sizeof left);
    std::memcpy(&right, second + i, sizeof right);
    const Frames low = __builtin_shufflevector(left, right, 0, 4, 1, 5);
    const Frames high = __builtin_shufflevector(left, right, 2, 6, 3, 7);
    y2 = (__builtin_convertvector(low, Lanes) - far1 * y2) - near1 * y1;
    z2 = (y2 - far2 * z2) - near2 * z1;
    y1 = (__builtin_convertvector(high, Lanes) - far1 * y1) - near1 * y2;
    z1 = (y1 - far2 * z1) - near2 * z2;
    squares += z2 * z2;
    squares += z1 * z1;
  }
  Pair sum = __builtin_shufflevector(squares, squares, 0, 1);
  sum += __builtin_shufflevector(squares, squares, 2, 3);
  for (; i < frames; ++i) {  // one more: all move up by a frame
    const Pair in{static_cast<double>(first[i]), static_cast<double>(second[i])};
    Pair y = in, z;
    for (std::size_t c = 0; c < 2; ++c) y[c] = (in[c] - shelf_.far * y2[c]) - shelf_.near * y1[c];
    for (std::size_t c = 0; c < 2; ++c) z[c] = (y[c] - highPass_.far * z2[c]) - highPass_.near * z1[c];
    y2 = Lanes{y2[2], y2[3], y1[0], y1[1]};
    z2 = Lanes{z2[2], z2[3], z1[0], z1[1]};
    y1 = Lanes{y1[2], y1[3], y[0], y[1]};
    z1 = Lanes{z1[2], z1[3], z[0], z[1]};
    sum += z * z;
  }
  eachPast([](const Lanes& lanes, TwoFrames& past) { std::memcpy(past.data(), &lanes, sizeof lanes); });
  sums[0] = sum[0], sums[1] = sum[1];
}

OCTAPHON_WIDE void KWeighting::poles(const float* first, const float* second, Frame frames, double* sums) {
  polesBy(first, second, frames, sums);
}
OCTAPHON_WIDE void KWeighting::poles(const double* first, const double* second, Frame frames, double* sums) {
  polesBy(first, second, frames, sums);
}

}  // namespace octaphon
