#include "finish/ring_meter.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/decibels.h"

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
      factor_(gainOf(setting.thresholdDb)),
      least_(setting.relative ? gainOf(setting.leastDb) : 0) {}

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
      peak_ = std::max(peak_, std::exchange(cellPeak_, 0.0f)), cellPlain_ = 0;
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

/// Behind the DC block: y[n] = x[n] − x[n−1] + p · y[n−1], times (1 + p) / 2, so that what is no DC passes.
void RingingSound::measure(const SoundBlock& block, Frame from, Frame frames) {
  if (block.isSilent() && isStill_) return;
  const double scale = (1 + pole_) / 2;
  double peak = 0;
  float plain = 0;
  bool isStill = true;
  for (int c = 0; c < channels_; ++c) {
    const auto channel = static_cast<std::size_t>(c);
    const float* const samples = block.isSilent() ? nullptr : block.channels[c] + from;
    // A sound that begins away from zero has an offset, not a step.
    if (taken_ == 0 && samples != nullptr && frames > 0) in_[channel] = samples[0];
    double in = in_[channel], out = out_[channel];
    for (Frame i = 0; i < frames; ++i) {
      const float sample = samples == nullptr ? 0.0f : samples[i];
      plain = std::max(plain, std::fabs(sample));
      out = sample - in + pole_ * out;
      in = sample;
      peak = std::max(peak, std::fabs(out));
    }
    if (in == 0 && std::fabs(out) < kStill) out = 0;
    in_[channel] = in;
    out_[channel] = out;
    isStill = isStill && in == 0 && out == 0;
  }
  isStill_ = isStill;
  cellPeak_ = std::max(cellPeak_, static_cast<float>(peak * scale));
  cellPlain_ = std::max(cellPlain_, plain);
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
