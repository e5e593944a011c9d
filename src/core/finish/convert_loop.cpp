#include "finish/convert_loop.h"

#include <algorithm>

#include "routing/mixing_law.h"

namespace octaphon {
namespace {

constexpr double kAfterSeconds = 0.05;  // more than the converter's filter is long

/// Gives each block to a function.
class Given : public Stage {
 public:
  using To = std::function<Result<>(const SoundBlock&)>;
  explicit Given(To to) : to_(std::move(to)) {}
  Result<> take(const SoundBlock& block) override { return to_(block); }
  Result<> end() override { return {}; }

 private:
  To to_;
};

}  // namespace

ConvertLoop::ConvertLoop(const FinishPlan& plan, const SoundFacts& facts, Stage& next)
    : plan_(plan),
      facts_(facts),
      channels_(plan.form.channels),
      next_(next),
      intro_(plan.extent.leadIn),
      before_(channels_),
      all_(channels_),
      first_(static_cast<std::size_t>(channels_)) {}

Result<> ConvertLoop::take(const SoundBlock& block) {
  const auto after = static_cast<std::size_t>(kAfterSeconds * plan_.extent.sessionRate);
  for (Frame i = std::clamp<Frame>(intro_ - taken_, 0, block.frames);
       i < block.frames && first_[0].size() < after; ++i)
    for (int c = 0; c < channels_; ++c)
      first_[static_cast<std::size_t>(c)].push_back(block.isSilent() ? 0.0f : block.channels[c][i]);
  taken_ += block.frames;
  if (intro_ == 0) OCTAPHON_TRY(before_.add(block, 0, block.frames));
  return all_.add(block, 0, block.frames);
}

/// To the converter.
Result<> ConvertLoop::feed(const SoundBlock& block) {
  interleaved_.assign(static_cast<std::size_t>(block.frames * channels_), 0.0f);
  for (int c = 0; c < channels_ && !block.isSilent(); ++c)
    for (Frame i = 0; i < block.frames; ++i)
      interleaved_[static_cast<std::size_t>(i * channels_ + c)] = block.channels[c][i];
  return resampler_->process(interleaved_.data(), block.frames,
                             [this](const float* out, Frame made) { return pass(out, made); });
}

Result<> ConvertLoop::pass(const float* interleaved, Frame frames) {
  const Frame skipped = std::min(skipped_, frames);
  skipped_ -= skipped;
  frames = std::min(frames - skipped, left_);
  if (frames <= 0) return {};
  left_ -= frames;
  planar_.resize(static_cast<std::size_t>(frames * channels_));
  const float* channels[kMaxTapChannels];
  for (int c = 0; c < channels_; ++c) {
    float* const own = planar_.data() + c * frames;
    for (Frame i = 0; i < frames; ++i) own[i] = interleaved[(skipped + i) * channels_ + c];
    channels[c] = own;
  }
  return next_.take({channels, frames});
}

Result<> ConvertLoop::end() {
  const ExtentPlan& extent = plan_.extent;
  const Frame lap = taken_ - intro_;
  const Frame converted = atRate(lap, extent.sessionRate, extent.rate);
  if (lap <= 0 || converted <= 0) return next_.end();
  OCTAPHON_ASSIGN(Resampler made,
                  Resampler::make(static_cast<double>(lap), static_cast<double>(converted), channels_));
  resampler_.emplace(std::move(made));
  skipped_ = intro_ == 0 ? converted : 0;
  left_ = atRate(intro_, extent.sessionRate, extent.rate) + converted;
  Given converter([this](const SoundBlock& block) { return feed(block); });
  OCTAPHON_TRY(before_.giveTo(converter, before_.frames()));
  OCTAPHON_TRY(all_.giveTo(converter, all_.frames()));
  // A lap shorter than that comes round several times.
  const auto after = static_cast<Frame>(kAfterSeconds * extent.sessionRate);
  for (Frame given = 0; given < after; given += static_cast<Frame>(first_[0].size())) {
    const float* channels[kMaxTapChannels];
    for (int c = 0; c < channels_; ++c) channels[c] = first_[static_cast<std::size_t>(c)].data();
    OCTAPHON_TRY(feed({channels, static_cast<Frame>(first_[0].size())}));
  }
  OCTAPHON_TRY(
      resampler_->process(nullptr, 0, [this](const float* out, Frame frames) { return pass(out, frames); }));
  return next_.end();
}

}  // namespace octaphon
