#include "finish/ring_meter.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <cstring>
#include <numbers>
#include <utility>

#include "base/decibels.h"
#include "base/samples.h"
#include "routing/mixing_law.h"

namespace octaphon {
namespace {

constexpr double kBlockHz = 10;
constexpr double kStill = 1e-12;  // a DC block that rings lower is at rest

/// Frames of the tail up to the end of so many cells; none lies beyond the limit.
Frame endOf(const RingSetting& setting, std::size_t cells) {
  const auto frames = static_cast<Frame>(cells) * setting.rate;
  return std::min((frames + 99) / 100, setting.limit);
}

}  // namespace

RingingSound::RingingSound(const RingSetting& setting, int channels)
    : setting_(setting),
      channels_(channels),
      pole_(std::exp(-2 * std::numbers::pi * kBlockHz / setting.rate)),
      warmUp_(std::max<Frame>(0, setting.before - setting.rate / 2)),
      bodies_(static_cast<std::size_t>(channels)),
      blocks_(static_cast<std::size_t>(channels)),
      factor_(gainOf(setting.thresholdDb)),
      least_(setting.relative ? gainOf(setting.leastDb) : 0) {}

void RingingSound::take(const SoundBlock& block) {
  for (Frame done = 0; done < block.frames;) {
    if (taken_ >= setting_.before + setting_.limit) return;
    // Up to where the DC block begins, up to the tail, then cell by cell.
    const Frame end = taken_ < warmUp_           ? warmUp_
                      : taken_ < setting_.before ? setting_.before
                                                 : setting_.before + endOf(setting_, cells_.size() + 1);
    const Frame count = std::min(block.frames - done, end - taken_);
    if (taken_ < setting_.before)
      takeBody(block, done, count);
    else
      takeTail(block, done, count);
    done += count;
  }
}

void RingingSound::takeBody(const SoundBlock& block, Frame from, Frame frames) {
  for (int c = 0; c < channels_ && setting_.relative; ++c) {
    Body& body = bodies_[static_cast<std::size_t>(c)];
    if (block.isSilent()) {
      constexpr float kSilence = 0;
      extendRange(&kSilence, 1, body.least, body.most);
      continue;
    }
    const float* const samples = block.channels[c] + from;
    extendRange(samples, frames, body.least, body.most);
    body.sum += sumOfSamples(samples, frames);
  }
  if (taken_ >= warmUp_) filter(block, from, frames);
  taken_ += frames;
  if (taken_ == setting_.before) peak_ = bodyPeak();
  cellPeak_ = 0;
}

/// How far the sound goes from its mean, which is rounded so that it does not depend on the blocks.
float RingingSound::bodyPeak() const {
  constexpr double kSteps = 1 << 20;
  float peak = 0;
  for (const Body& body : bodies_) {
    const double mean = body.sum / static_cast<double>(setting_.before);
    const auto offset = static_cast<float>(std::round(mean * kSteps) / kSteps);
    peak = std::max({peak, body.most - offset, offset - body.least});
  }
  return peak;
}

void RingingSound::takeTail(const SoundBlock& block, Frame from, Frame frames) {
  filter(block, from, frames);
  for (int c = 0; c < channels_ && !block.isSilent(); ++c)
    cellPlain_ =
        std::max(cellPlain_, std::bit_cast<float>(largestMagnitudeBits(block.channels[c] + from, frames)));
  taken_ += frames;
  if (taken_ == setting_.before + endOf(setting_, cells_.size() + 1)) endCell();
}

void RingingSound::endCell() {
  peak_ = std::max(peak_, cellPeak_);
  const double threshold = setting_.relative ? std::max(peak_ * factor_, least_) : factor_;
  const float peak = std::min(cellPeak_, cellPlain_);
  cells_.push_back({peak, peak > 0 && peak >= threshold});
  cellPeak_ = cellPlain_ = 0;
}

namespace {

/// d[i] = x[i] − x[i−1], y[i] = d[i] + p·d[i−1] + p²·d[i−2] + p³·d[i−3] + p⁴·y[i−4]: the DC block
/// y[i] = d[i] + p·y[i−1] with four samples that do not wait for each other. `d` and `y` have what came
/// before in front of them; `frames` is a multiple of 4. Gives the largest magnitude of y.
OCTAPHON_WIDE double blockDc(const float* x, double before, double pole, Frame frames, double* __restrict d,
                             double* __restrict y) {
  const double p1 = pole, p2 = p1 * pole, p3 = p2 * pole, p4 = p3 * pole;
  d[0] = static_cast<double>(x[0]) - before;
  for (Frame i = 1; i < frames; ++i) d[i] = static_cast<double>(x[i]) - static_cast<double>(x[i - 1]);
  for (Frame i = 0; i < frames; ++i) y[i] = d[i] + p1 * d[i - 1] + p2 * d[i - 2] + p3 * d[i - 3];
  using Four = double __attribute__((vector_size(4 * sizeof(double))));
  Four last, peak = {};
  std::memcpy(&last, y - 4, sizeof last);
  for (Frame i = 0; i < frames; i += 4) {
    Four four;
    std::memcpy(&four, y + i, sizeof four);
    last = four + p4 * last;
    std::memcpy(y + i, &last, sizeof last);
    const Four magnitude = last < 0 ? -last : last;
    peak = magnitude > peak ? magnitude : peak;
  }
  return std::max(std::max(peak[0], peak[1]), std::max(peak[2], peak[3]));
}

}  // namespace

double RingingSound::DcBlock::run(const float* samples, double pole, Frame frames) {
  constexpr Frame kTurn = 512;
  std::array<float, kTurn> x;
  std::array<double, kTurn + kHistory> d, y;
  double peak = 0;
  for (Frame done = 0; done < frames; done += kTurn) {
    const Frame count = std::min(kTurn, frames - done);
    const Frame whole = (count + 3) / 4 * 4;
    x.fill(0.0f);
    if (samples != nullptr) std::copy_n(samples + done, count, x.begin());
    // What fills up the last four repeats the last sample, and is not kept.
    std::fill(x.begin() + count, x.begin() + whole, x[static_cast<std::size_t>(count - 1)]);
    std::copy(d_.begin(), d_.end(), d.begin());
    std::copy(y_.begin(), y_.end(), y.begin());
    double* const out = y.data() + kHistory;
    double found = blockDc(x.data(), in_, pole, whole, d.data() + kHistory, out);
    if (whole > count) {
      found = 0;
      for (Frame i = 0; i < count; ++i) found = std::max(found, std::fabs(out[i]));
    }
    peak = std::max(peak, found);
    in_ = static_cast<double>(x[static_cast<std::size_t>(count - 1)]);
    std::copy_n(d.begin() + count, kHistory, d_.begin());
    std::copy_n(y.begin() + count, kHistory, y_.begin());
  }
  return peak;
}

bool RingingSound::DcBlock::rest() {
  const auto isLoud = [](double value) { return std::fabs(value) >= kStill; };
  if (in_ != 0 || std::any_of(d_.begin(), d_.end(), isLoud) || std::any_of(y_.begin(), y_.end(), isLoud))
    return false;
  d_.fill(0);
  y_.fill(0);
  return true;
}

void RingingSound::filter(const SoundBlock& block, Frame from, Frame frames) {
  if (frames == 0 || (block.isSilent() && isStill_)) return;
  double peak = 0;
  isStill_ = true;
  for (int c = 0; c < channels_; ++c) {
    DcBlock& dc = blocks_[static_cast<std::size_t>(c)];
    const float* const samples = block.isSilent() ? nullptr : block.channels[c] + from;
    // A sound that begins away from zero has an offset, not a step.
    if (taken_ == warmUp_ && samples != nullptr) dc.setFirst(samples[0]);
    peak = std::max(peak, dc.run(samples, pole_, frames));
    isStill_ = dc.rest() && isStill_;
  }
  // Times (1 + p) / 2, so that what is no DC passes.
  cellPeak_ = std::max(cellPeak_, static_cast<float>(peak * (1 + pole_) / 2));
}

RingMeter::RingMeter(RingSetting setting, const std::vector<int>& channels) : setting_(setting) {
  sounds_.reserve(channels.size());
  for (const int count : channels) sounds_.emplace_back(setting_, count);
  isDecided_ = sounds_.empty() || setting_.limit == 0;
}

void RingMeter::decide() {
  if (isDecided_) return;
  std::size_t come = sounds_.front().cells();
  for (const RingingSound& sound : sounds_) come = std::min(come, sound.cells());
  while (looked_ < come && !isDecided_) {
    for (const RingingSound& sound : sounds_)
      if (sound.reaches(looked_)) reached_ = looked_ + 1;
    ++looked_;
    certain_ = endOf(setting_, reached_);
    const Frame end = endOf(setting_, looked_);
    isDecided_ = end - certain_ >= setting_.hold || end == setting_.limit;
  }
}

Frame RingMeter::heard() const { return endOf(setting_, looked_); }

float RingMeter::left() const {
  float left = 0;
  for (const RingingSound& sound : sounds_)
    if (reached_ > 0 && reached_ <= sound.cells()) left = std::max(left, sound.peakOf(reached_ - 1));
  return left;
}

}  // namespace octaphon
