#include "run/sum_meter.h"

#include <algorithm>
#include <bit>
#include <cmath>

namespace octaphon {

/// Magnitudes of floats order like their bits; integers make a fast loop.
static float peakOf(const float* in, Frame frames) {
  std::int32_t largest = 0;
  for (Frame i = 0; i < frames; ++i)
    largest = std::max(largest, std::bit_cast<std::int32_t>(in[i]) & 0x7FFFFFFF);
  return std::bit_cast<float>(largest);
}

std::string_view sumVerdictName(SumVerdict verdict) {
  switch (verdict) {
    case SumVerdict::AddsUp: return "adds-up";
    case SumVerdict::Differs: return "differs";
    case SumVerdict::NotJudged: return "not-judged";
  }
  return {};
}

SumMeter::SumMeter(std::vector<std::size_t> layers, std::size_t reference, Frame frames)
    : layers_(std::move(layers)), reference_(reference), frames_(frames) {}

void SumMeter::begin(const TapSource& source) {
  channels_ = source.channels(reference_);
  for (const std::size_t tap : layers_) {
    latency_ = std::max(latency_, source.latency(tap));
    if (channels_ == 0) channels_ = source.channels(tap);
    if (source.channels(tap) != 0 && source.channels(tap) != channels_)
      problem_ = "the layers have different channels at this reach";
  }
  latency_ = std::max(latency_, source.latency(reference_));
  for (const std::size_t tap : layers_) delays_.emplace_back(channels_, latency_ - source.latency(tap));
  delays_.emplace_back(channels_, latency_ - source.latency(reference_));
  total_.resize(static_cast<std::size_t>(channels_ * source.blockFrames()));
  delayed_.resize(total_.size());
}

void SumMeter::add(const TapSource& source, std::size_t tap, double sign, DelayLine& delay, Frame frames) {
  const TapBlock block = source.tap(tap);
  if (block.error != nullptr) problem_ = "not all of the layers could be made";
  const std::size_t stride = delayed_.size() / static_cast<std::size_t>(std::max(channels_, 1));
  const float* const* sound = block.channel;
  float* delayed[kMaxMixChannels];
  if (delay.delay() > 0) {
    for (int c = 0; c < channels_; ++c) delayed[c] = delayed_.data() + static_cast<std::size_t>(c) * stride;
    if (!delay.process(block.isSilent() ? nullptr : block.channel, delayed, frames)) return;
    sound = delayed;
  } else if (block.isSilent()) {
    return;
  }
  float peak = 0;
  for (int c = 0; c < channels_; ++c) {
    double* total = total_.data() + static_cast<std::size_t>(c) * stride;
    const float* in = sound[c];
    for (Frame i = 0; i < frames; ++i) total[i] += sign * in[i];
    if (sign > 0) peak = std::max(peak, peakOf(in, frames));
  }
  if (sign > 0) loudest_ = std::max(loudest_, static_cast<double>(peak));
}

void SumMeter::take(const TapSource& source, Frame at, Frame frames) {
  if (!problem_.empty()) return;
  std::fill(total_.begin(), total_.end(), 0.0);
  for (std::size_t i = 0; i < layers_.size(); ++i) add(source, layers_[i], 1, delays_[i], frames);
  add(source, reference_, -1, delays_.back(), frames);
  // Frame 0 of the span comes `latency_` frames later.
  const Frame first = std::max<Frame>(0, latency_ - at);
  const Frame last = std::min(frames, frames_ + latency_ - at);
  const std::size_t stride = total_.size() / static_cast<std::size_t>(std::max(channels_, 1));
  for (int c = 0; c < channels_; ++c)
    for (Frame i = first; i < last; ++i)
      residual_ = std::max(
          residual_, std::fabs(total_[static_cast<std::size_t>(c) * stride + static_cast<std::size_t>(i)]));
}

double SumMeter::residualDb() const {
  return residual_ == 0 ? kExactSumDb : std::max(kExactSumDb, 20 * std::log10(residual_ / loudest_));
}

}  // namespace octaphon
