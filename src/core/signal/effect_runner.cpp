#include "signal/effect_runner.h"

#include <algorithm>

namespace octaphon {
namespace {

constexpr int kMostChannels = 16;  // of a sound and its key

Frame cellEnd(Frame at) {
  const Frame inside = ((at % kEffectCell) + kEffectCell) % kEffectCell;
  return at - inside + kEffectCell;
}

bool isZero(const float* const* in, int channels, Frame frames) {
  for (int c = 0; c < channels; ++c)
    for (Frame i = 0; i < frames; ++i)
      if (in[c][i] != 0) return false;
  return true;
}

const float* silence() {
  static const std::vector<float> kZeros(kEffectCell, 0.0f);
  return kZeros.data();
}

}  // namespace

EffectRunner::EffectRunner(std::unique_ptr<Processor> processor, int inputs, int outputs, bool computesGain,
                           bool isFixed)
    : processor_(std::move(processor)),
      inputs_(inputs),
      outputs_(outputs),
      computesGain_(computesGain),
      mayRest_(!computesGain || isFixed),
      isResting_(mayRest_) {
  if (!computesGain || !isFixed) return;
  // The gain of silence, from one frame of it.
  const float* in[kMostChannels];
  float* out[kMostChannels];
  restGain_.resize(static_cast<std::size_t>(outputs));
  for (int c = 0; c < inputs; ++c) in[c] = silence();
  for (int c = 0; c < outputs; ++c) out[c] = &restGain_[static_cast<std::size_t>(c)];
  processor_->process(in, out, 0, 1);
  processor_->reset();
}

bool EffectRunner::process(const float* const* in, float* const* out, Frame at, Frame frames) {
  if (in == nullptr && isResting_ && !computesGain_) return false;
  bool sounds = computesGain_;
  for (Frame done = 0; done < frames;) {
    const Frame count = std::min(frames - done, cellEnd(at + done) - (at + done));
    const float* chunkIn[kMostChannels];
    float* chunkOut[kMostChannels];
    for (int c = 0; c < inputs_; ++c) chunkIn[c] = in == nullptr ? silence() : in[c] + done;
    for (int c = 0; c < outputs_; ++c) chunkOut[c] = out[c] + done;
    sounds |= chunk(chunkIn, chunkOut, at + done, count);
    done += count;
  }
  return sounds;
}

bool EffectRunner::chunk(const float* const* in, float* const* out, Frame at, Frame frames) {
  const bool quiet = isZero(in, inputs_, frames);
  cellIsQuiet_ = cellIsQuiet_ && quiet;
  const bool sounds = !isResting_ || !quiet;
  if (sounds) {
    isResting_ = false;
    processor_->process(in, out, at, frames);
  } else {
    rest(out, frames);
  }
  if (at + frames == cellEnd(at)) {
    if (mayRest_ && !isResting_ && cellIsQuiet_ && processor_->isAtRest()) {
      processor_->reset();
      isResting_ = true;
    }
    cellIsQuiet_ = true;
  }
  return sounds;
}

void EffectRunner::rest(float* const* out, Frame frames) const {
  for (int c = 0; c < outputs_; ++c)
    std::fill_n(out[c], frames, computesGain_ ? restGain_[static_cast<std::size_t>(c)] : 0.0f);
}

EffectRunner EffectRunner::clone() const {
  EffectRunner copy;
  copy.processor_ = processor_ ? processor_->clone() : nullptr;
  copy.inputs_ = inputs_;
  copy.outputs_ = outputs_;
  copy.computesGain_ = computesGain_;
  copy.mayRest_ = mayRest_;
  copy.isResting_ = isResting_;
  copy.cellIsQuiet_ = cellIsQuiet_;
  copy.restGain_ = restGain_;
  return copy;
}

}  // namespace octaphon
