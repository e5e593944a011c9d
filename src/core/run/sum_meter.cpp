#include "run/sum_meter.h"

#include <algorithm>
#include <bit>
#include <cmath>

#include "base/samples.h"

namespace octaphon {

static constexpr Frame kTurn = 1024;  // what is added up at once stays in the processor's nearest cache

std::string_view sumVerdictName(SumVerdict verdict) {
  switch (verdict) {
    case SumVerdict::AddsUp: return "adds-up";
    case SumVerdict::Differs: return "differs";
    case SumVerdict::NotJudged: return "not-judged";
  }
  return {};
}

SumMeter::SumMeter(std::vector<std::size_t> layers, std::size_t reference, Frame frames, Frame wanted)
    : taps_(std::move(layers)), frames_(frames), wanted_(wanted) {
  taps_.push_back(reference);
}

void SumMeter::begin(const TapSource& source) {
  channels_ = source.channels(taps_.back());
  for (const std::size_t tap : taps_) {
    latency_ = std::max(latency_, source.latency(tap));
    if (channels_ == 0) channels_ = source.channels(tap);
    if (tap != taps_.back() && source.channels(tap) != 0 && source.channels(tap) != channels_)
      problem_ = "the layers have different channels at this reach";
  }
  for (const std::size_t tap : taps_) delays_.emplace_back(channels_, latency_ - source.latency(tap));
  total_.resize(static_cast<std::size_t>(channels_ * kTurn));
  delayed_.resize(total_.size());
}

void SumMeter::take(const TapSource& source, Frame at, Frame frames) {
  if (!problem_.empty()) return;
  std::vector<TapBlock> blocks;
  blocks.reserve(taps_.size());
  for (const std::size_t tap : taps_) {
    blocks.push_back(source.tap(tap));
    if (blocks.back().error != nullptr) problem_ = "not all of the layers could be made";
  }
  for (Frame done = 0; done < frames && problem_.empty(); done += kTurn)
    takeTurn(blocks, at, done, std::min(kTurn, frames - done));
}

/// `from` frames into the blocks, which start `at` frames after the file's first one.
void SumMeter::takeTurn(const std::vector<TapBlock>& blocks, Frame at, Frame from, Frame frames) {
  std::fill(total_.begin(), total_.end(), 0.0);
  for (std::size_t i = 0; i < blocks.size(); ++i) {
    const float* sound[kMaxTapChannels];
    for (int c = 0; c < channels_ && !blocks[i].isSilent(); ++c) sound[c] = blocks[i].channel[c] + from;
    add(blocks[i].isSilent() ? nullptr : sound, i, frames);
  }
  // The file's first frame comes `latency_` frames later.
  const Frame first = std::max<Frame>(0, latency_ - at - from);
  const Frame last = std::min(frames, frames_ + latency_ - at - from);
  for (int c = 0; c < channels_; ++c) {
    const double* total = total_.data() + c * kTurn;
    for (Frame i = first; i < last; ++i) residual_ = std::max(residual_, std::fabs(total[i]));
  }
}

/// A turn of the tap `index`, null where it is silent.
void SumMeter::add(const float* const* sound, std::size_t index, Frame frames) {
  float* delayed[kMaxTapChannels];
  if (delays_[index].delay() > 0) {
    for (int c = 0; c < channels_; ++c) delayed[c] = delayed_.data() + c * kTurn;
    sound = delays_[index].process(sound, delayed, frames) ? delayed : nullptr;
  }
  if (sound == nullptr) return;
  const bool isReference = index + 1 == taps_.size();
  for (int c = 0; c < channels_; ++c) {
    double* total = total_.data() + c * kTurn;
    if (isReference) {
      subtractSamples(total, sound[c], frames);
    } else {
      addSamples(total, sound[c], frames);
      const auto peak = std::bit_cast<float>(largestMagnitudeBits(sound[c], frames));
      loudest_ = std::max(loudest_, static_cast<double>(peak));
    }
  }
}

double SumMeter::residualDb() const {
  return residual_ == 0 ? kExactSumDb : std::max(kExactSumDb, 20 * std::log10(residual_ / loudest_));
}

}  // namespace octaphon
