#include "finish/convert_rate.h"

#include <algorithm>
#include <array>

#include "routing/mixing_law.h"

namespace octaphon {

static constexpr Frame kTurn = 4096;

ConvertRate::ConvertRate(const FinishPlan& plan, const SoundFacts& facts, Stage& next)
    : plan_(plan),
      facts_(facts),
      channels_(plan.form.channels),
      next_(next),
      // A whole number: the context is one of periods of both rates.
      skipped_(atRate(plan.context, plan.extent.sessionRate, plan.extent.rate)) {}

/// What was not heard before the first frame is silence.
Result<> ConvertRate::begin() {
  OCTAPHON_ASSIGN(Resampler made, Resampler::make(plan_.extent.sessionRate, plan_.extent.rate, channels_));
  resampler_.emplace(std::move(made));
  Frame missing = plan_.context - plan_.before;
  for (; missing > 0; missing -= kTurn) OCTAPHON_TRY(take({nullptr, std::min(kTurn, missing)}));
  return {};
}

Result<> ConvertRate::take(const SoundBlock& block) {
  if (!resampler_) OCTAPHON_TRY(begin());
  for (Frame done = 0; done < block.frames; done += kTurn) {
    const Frame frames = std::min(kTurn, block.frames - done);
    interleaved_.assign(static_cast<std::size_t>(frames * channels_), 0.0f);
    for (int c = 0; c < channels_ && !block.isSilent(); ++c)
      for (Frame i = 0; i < frames; ++i)
        interleaved_[static_cast<std::size_t>(i * channels_ + c)] = block.channels[c][done + i];
    OCTAPHON_TRY(resampler_->process(interleaved_.data(), frames,
                                     [this](const float* out, Frame made) { return pass(out, made); }));
  }
  return {};
}

Result<> ConvertRate::pass(const float* interleaved, Frame frames) {
  const Frame skipped = std::min(skipped_, frames);
  skipped_ -= skipped;
  frames -= skipped;
  frames = std::min(frames, plan_.extent.soundFrames(facts_.tail) - passed_);
  return frames > 0 ? handOn(interleaved + skipped * channels_, frames) : Result<>{};
}

Result<> ConvertRate::handOn(const float* interleaved, Frame frames) {
  passed_ += frames;
  planar_.resize(static_cast<std::size_t>(frames * channels_));
  std::array<const float*, kMaxTapChannels> channels{};
  for (int c = 0; c < channels_; ++c) {
    float* const own = planar_.data() + c * frames;
    for (Frame i = 0; i < frames; ++i) own[i] = interleaved[i * channels_ + c];
    channels[static_cast<std::size_t>(c)] = own;
  }
  return next_.take({channels.data(), frames});
}

Result<> ConvertRate::end() {
  if (!resampler_) OCTAPHON_TRY(begin());
  OCTAPHON_TRY(
      resampler_->process(nullptr, 0, [this](const float* out, Frame made) { return pass(out, made); }));
  const Frame missing = plan_.extent.soundFrames(facts_.tail) - passed_;
  if (missing > 0) OCTAPHON_TRY(next_.take({nullptr, missing}));
  return next_.end();
}

}  // namespace octaphon
