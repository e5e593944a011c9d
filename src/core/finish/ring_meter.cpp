#include "finish/ring_meter.h"

#include <algorithm>
#include <bit>
#include <cmath>
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
      blocks_(static_cast<std::size_t>(channels)),
      factor_(gainOf(setting.thresholdDb)),
      least_(setting.relative ? gainOf(setting.leastDb) : 0) {
  for (DcBlock& block : blocks_) block.setPole(pole_);
}

void RingingSound::take(const SoundBlock& block) {
  for (Frame done = 0; done < block.frames;) {
    const Frame tail = taken_ - setting_.before;
    if (tail >= setting_.limit) return;
    const Frame left = block.frames - done;
    // Up to the tail, then cell by cell.
    const Frame end = tail < 0 ? 0 : endOf(setting_, cells_.size() + 1);
    const Frame count = std::min(left, end - tail);
    measure(block, done, count);
    done += count;
    taken_ += count;
    if (tail < 0)
      peak_ = std::max(peak_, std::exchange(cellPeak_, 0.0f));
    else if (tail + count == end)
      endCell();
  }
}

void RingingSound::endCell() {
  peak_ = std::max(peak_, cellPeak_);
  const double threshold = setting_.relative ? std::max(peak_ * factor_, least_) : factor_;
  const float peak = std::min(cellPeak_, cellPlain_);
  cells_.push_back({peak, peak > 0 && peak >= threshold});
  cellPeak_ = cellPlain_ = 0;
}

void RingingSound::DcBlock::setPole(double pole) {
  for (std::size_t k = 0; k < kStep; ++k) powers_[k] = k == 0 ? pole : powers_[k - 1] * pole;
}

/// y[n] = x[n] − x[n−1] + p · y[n−1], worked out from the last of every four y, so that no sample waits for
/// the one before it: y[n+k] = d[n+k] + p · d[n+k−1] + … + pᵏ · y[n] with d[n] = x[n] − x[n−1].
double RingingSound::DcBlock::at(std::size_t k) const {
  double sum = steps_[k];
  for (std::size_t i = 0; i < k; ++i) sum += powers_[i] * steps_[k - 1 - i];
  return sum + powers_[k] * base_;
}

double RingingSound::DcBlock::runOne(double sample) {
  steps_[filled_] = sample - std::exchange(in_, sample);
  const double out = at(filled_);
  if (++filled_ == kStep) {
    filled_ = 0;
    base_ = out;
  }
  return std::fabs(out);
}

/// at() of whole steps, which is where the time goes.
double RingingSound::DcBlock::runSteps(const float* samples, Frame steps) {
  const double p1 = powers_[0], p2 = powers_[1], p3 = powers_[2], p4 = powers_[3];
  double base = base_, in = in_, peak = 0;
  for (Frame i = 0; i < steps; ++i, samples += kStep) {
    const double x0 = samples[0], x1 = samples[1], x2 = samples[2], x3 = samples[3];
    const double d0 = x0 - in, d1 = x1 - x0, d2 = x2 - x1, d3 = x3 - x2;
    const double y0 = d0 + p1 * base;
    const double y1 = d1 + p1 * d0 + p2 * base;
    const double y2 = d2 + p1 * d1 + p2 * d0 + p3 * base;
    const double y3 = d3 + p1 * d2 + p2 * d1 + p3 * d0 + p4 * base;
    peak = std::max(peak,
                    std::max(std::max(std::fabs(y0), std::fabs(y1)), std::max(std::fabs(y2), std::fabs(y3))));
    base = y3;
    in = x3;
  }
  base_ = base;
  in_ = in;
  return peak;
}

double RingingSound::DcBlock::run(const float* samples, Frame frames) {
  double peak = 0;
  Frame done = 0;
  const auto runTo = [&](Frame end) {
    for (; done < end; ++done)
      peak = std::max(peak, runOne(samples == nullptr ? 0 : static_cast<double>(samples[done])));
  };
  runTo(filled_ == 0 ? 0 : std::min(frames, static_cast<Frame>(kStep - filled_)));
  if (samples != nullptr && done < frames) {
    const Frame steps = (frames - done) / static_cast<Frame>(kStep);
    peak = std::max(peak, runSteps(samples + done, steps));
    done += steps * static_cast<Frame>(kStep);
  }
  runTo(frames);
  return peak;
}

bool RingingSound::DcBlock::rest() {
  if (in_ != 0 || filled_ > 0 || std::fabs(base_) >= kStill) return false;
  base_ = 0;
  return true;
}

void RingingSound::measure(const SoundBlock& block, Frame from, Frame frames) {
  if (block.isSilent() && isStill_) return;
  const float* samples[kMaxMixChannels] = {};
  for (int c = 0; c < channels_ && !block.isSilent(); ++c) samples[c] = block.channels[c] + from;
  double peak = 0;
  isStill_ = true;
  for (int c = 0; c < channels_; ++c) {
    DcBlock& dc = blocks_[static_cast<std::size_t>(c)];
    // A sound that begins away from zero has an offset, not a step.
    if (taken_ == 0 && frames > 0 && samples[c] != nullptr) dc.setFirst(samples[c][0]);
    peak = std::max(peak, dc.run(samples[c], frames));
    isStill_ = dc.rest() && isStill_;
  }
  // Times (1 + p) / 2, so that what is no DC passes.
  cellPeak_ = std::max(cellPeak_, static_cast<float>(peak * (1 + pole_) / 2));
  if (taken_ < setting_.before) return;  // only cells of the tail are held against the threshold
  for (int c = 0; c < channels_ && samples[c] != nullptr; ++c)
    cellPlain_ = std::max(cellPlain_, std::bit_cast<float>(largestMagnitudeBits(samples[c], frames)));
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
