#include "finish/loop_stages.h"

#include <algorithm>
#include <cmath>

#include "loop/blend.h"
#include "routing/mixing_law.h"

namespace octaphon {
namespace {

/// Hands on what comes to it, some of it changed.
class Changed : public Stage {
 public:
  /// `change(channels, at, frames)`: of the frames from `at` on.
  using Change = std::function<void(float* const* channels, Frame at, Frame frames)>;
  Changed(int channels, Frame at, Change change, Stage& next)
      : channels_(channels), at_(at), change_(std::move(change)), next_(next) {}

  Result<> take(const SoundBlock& block) override {
    samples_.assign(static_cast<std::size_t>(block.frames * channels_), 0.0f);
    float* channels[kMaxTapChannels];
    const float* given[kMaxTapChannels];
    for (int c = 0; c < channels_; ++c) {
      given[c] = channels[c] = samples_.data() + c * block.frames;
      if (!block.isSilent()) std::copy_n(block.channels[c], block.frames, channels[c]);
    }
    change_(channels, at_, block.frames);
    at_ += block.frames;
    return next_.take({given, block.frames});
  }
  Result<> end() override { return {}; }

 private:
  int channels_;
  Frame at_;
  Change change_;
  std::vector<float> samples_;
  Stage& next_;
};

/// Where what is left out goes.
class Nowhere : public Stage {
 public:
  Result<> take(const SoundBlock&) override { return {}; }
  Result<> end() override { return {}; }
};

}  // namespace

Result<> FoldTail::take(const SoundBlock& block) {
  const Frame ofBody = std::clamp<Frame>(body_ - taken_, 0, block.frames);
  OCTAPHON_TRY(lap_.add(block, 0, ofBody));
  if (ofBody < block.frames && !block.isSilent()) fold(block, ofBody);
  taken_ += block.frames;
  return {};
}

void FoldTail::fold(const SoundBlock& block, Frame from) {
  folded_.resize(static_cast<std::size_t>(channels_));
  const auto reached = static_cast<std::size_t>(std::min(body_, taken_ + block.frames - body_));
  for (int c = 0; c < channels_; ++c) {
    std::vector<double>& folded = folded_[static_cast<std::size_t>(c)];
    if (folded.size() < reached) folded.resize(reached, 0.0);
    auto place = static_cast<std::size_t>((taken_ + from) % body_);
    for (Frame i = from; i < block.frames; ++i) {
      folded[place] += static_cast<double>(block.channels[c][i]);
      if (++place == static_cast<std::size_t>(body_)) place = 0;
    }
  }
}

Result<> FoldTail::end() {
  if (taken_ < body_) OCTAPHON_TRY(lap_.add({nullptr, body_ - taken_}, 0, body_ - taken_));
  Changed added(
      channels_, 0,
      [&](float* const* channels, Frame at, Frame frames) {
        for (std::size_t c = 0; c < folded_.size(); ++c)
          for (Frame i = 0; i < frames; ++i)
            channels[c][i] = static_cast<float>(static_cast<double>(channels[c][i]) +
                                                folded_[c][static_cast<std::size_t>(at + i)]);
      },
      next_);
  const Frame changed = folded_.empty() ? 0 : static_cast<Frame>(folded_.front().size());
  OCTAPHON_TRY(lap_.giveTo(added, changed));
  OCTAPHON_TRY(lap_.giveTo(next_, body_ - changed));
  return next_.end();
}

KeepLap::KeepLap(const FinishPlan& plan, SoundFacts& facts, Stage& next)
    : plan_(plan),
      facts_(facts),
      keptFrom_(plan.loop.before + (plan.loop.laps - 2) * plan.loop.body),
      keptTo_(keptFrom_ + plan.loop.body),
      kept_(plan.tapped),
      next_(next) {}

Result<> KeepLap::take(const SoundBlock& block) {
  const Frame wantedFrom = plan_.loop.keepsIntro ? 0 : keptFrom_;
  const auto inBlock = [&](Frame at) { return std::clamp<Frame>(at - taken_, 0, block.frames); };
  const float* channels[kMaxTapChannels];
  const Frame from = inBlock(wantedFrom), kept = inBlock(keptFrom_), to = inBlock(keptTo_);
  if (to > from) OCTAPHON_TRY(next_.take(partOf(block, plan_.tapped, from, to - from, channels)));
  if (to > kept) OCTAPHON_TRY(kept_.add(block, kept, to - kept));
  if (to < block.frames) OCTAPHON_TRY(compare(block, to, block.frames - to));
  taken_ += block.frames;
  return {};
}

/// Frames of the last lap with those of the kept one.
Result<> KeepLap::compare(const SoundBlock& block, Frame from, Frame frames) {
  facts_.goesOn.resize(static_cast<std::size_t>(plan_.tapped));
  const Frame most = plan_.extent.sessionRate * 2 / 5;
  for (int c = 0; c < plan_.tapped; ++c) {
    std::vector<float>& heard = facts_.goesOn[static_cast<std::size_t>(c)];
    for (Frame i = from; i < from + frames && static_cast<Frame>(heard.size()) < most; ++i)
      heard.push_back(block.isSilent() ? 0.0f : block.channels[c][i]);
  }
  Nowhere nowhere;
  Frame at = from;
  Changed compared(
      plan_.tapped, 0,
      [&](float* const* channels, Frame, Frame count) {
        for (int c = 0; c < plan_.tapped; ++c)
          for (Frame i = 0; i < count; ++i) {
            const float later = block.isSilent() ? 0.0f : block.channels[c][at + i];
            peak_ = std::max(peak_, std::fabs(later));
            difference_ = std::max(difference_, std::fabs(later - channels[c][i]));
          }
        at += count;
      },
      nowhere);
  return kept_.giveTo(compared, frames);
}

Result<> KeepLap::end() {
  // Relative to the louder of full scale and the sound.
  facts_.lapDifference = difference_ / std::max(1.0f, peak_);
  return next_.end();
}

BlendEnds::BlendEnds(const FinishPlan& plan, Stage& next)
    : plan_(plan),
      blend_(plan.loop.before),
      lap_(plan.tapped),
      before_(static_cast<std::size_t>(plan.tapped)),
      law_(plan.loop.blendLaw == BlendLaw::EqualGain ? BlendLaw::EqualGain : BlendLaw::EqualPower),
      next_(next) {}

Result<> BlendEnds::take(const SoundBlock& block) {
  const Frame ofBefore = std::clamp<Frame>(blend_ - taken_, 0, block.frames);
  for (int c = 0; c < plan_.tapped; ++c)
    for (Frame i = 0; i < ofBefore; ++i)
      before_[static_cast<std::size_t>(c)].push_back(block.isSilent() ? 0.0f : block.channels[c][i]);
  taken_ += block.frames;
  return ofBefore < block.frames ? lap_.add(block, ofBefore, block.frames - ofBefore) : Result<>{};
}

Result<> BlendEnds::end() {
  const Frame body = plan_.loop.body;
  if (lap_.frames() < body) OCTAPHON_TRY(lap_.add({nullptr, body - lap_.frames()}, 0, body - lap_.frames()));
  const Frame from = body - blend_;
  OCTAPHON_TRY(lap_.giveTo(next_, from));
  Changed blended(
      plan_.tapped, 0,
      [&](float* const* channels, Frame at, Frame frames) {
        for (Frame i = 0; i < frames; ++i) {
          const double place = (static_cast<double>(at + i) + 0.5) / static_cast<double>(blend_);
          const BlendGains gains = law_ == BlendLaw::EqualGain ? equalGain(place) : equalPower(place);
          for (int c = 0; c < plan_.tapped; ++c)
            channels[c][i] = static_cast<float>(
                static_cast<double>(channels[c][i]) * gains.going +
                static_cast<double>(before_[static_cast<std::size_t>(c)][static_cast<std::size_t>(at + i)]) *
                    gains.coming);
        }
      },
      next_);
  OCTAPHON_TRY(lap_.giveTo(blended, blend_));
  return next_.end();
}

PlainJoin::PlainJoin(const FinishPlan& plan, SoundFacts& facts, Stage& next)
    : plan_(plan),
      facts_(facts),
      all_(plan.tapped),
      from_(plan.loop.before),
      frames_(plan.loop.body),
      next_(next) {}

Result<> PlainJoin::end() {
  if (all_.frames() < from_ + frames_) {
    const Frame missing = from_ + frames_ - all_.frames();
    OCTAPHON_TRY(all_.add({nullptr, missing}, 0, missing));
  }
  if (plan_.loop.isSearched) {
    const ExtentPlan& extent = plan_.extent;
    const Frame frames = atRate(frames_, extent.sessionRate, extent.rate);
    facts_.kept.from =
        std::min(atRate(from_, extent.sessionRate, extent.rate), extent.soundFrames(0) - frames);
    facts_.kept.to = facts_.kept.from + frames;
  }
  Nowhere nowhere;
  OCTAPHON_TRY(all_.giveTo(nowhere, from_));
  OCTAPHON_TRY(all_.giveTo(next_, frames_));
  all_.clear();
  return next_.end();
}

}  // namespace octaphon
