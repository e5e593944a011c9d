#include "finish/wait_for_gain.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "base/decibels.h"
#include "base/samples.h"
#include "finish/limit.h"
#include "routing/mixing_law.h"

namespace octaphon {
namespace {

/// Louder by a factor; at unity as it is.
class Gain : public Stage {
 public:
  Gain(int channels, double factor, Stage& next)
      : factor_(static_cast<float>(factor)),
        raised_(static_cast<std::size_t>(channels), std::vector<float>(kTurn)),
        next_(next) {}

  Result<> take(const SoundBlock& block) override {
    if (block.isSilent() || factor_ == 1) return next_.take(block);
    for (Frame done = 0; done < block.frames; done += kTurn) {
      const Frame count = std::min(kTurn, block.frames - done);
      std::array<const float*, kMaxTapChannels> channels;
      for (std::size_t c = 0; c < raised_.size(); ++c) {
        scaleSamples(block.channels[c] + done, factor_, raised_[c].data(), count);
        channels[c] = raised_[c].data();
      }
      OCTAPHON_TRY(next_.take({channels.data(), count}));
    }
    return {};
  }
  Result<> end() override { return next_.end(); }

 private:
  static constexpr Frame kTurn = 4096;
  float factor_;
  std::vector<std::vector<float>> raised_;
  Stage& next_;
};

/// The same, and under a ceiling.
class LimitedGain : public Stage {
 public:
  LimitedGain(int channels, int rate, double factor, double limitDb, Stage& next)
      : limit_(channels, rate, limitDb, next), gain_(channels, factor, limit_) {}
  Result<> take(const SoundBlock& block) override { return gain_.take(block); }
  Result<> end() override { return gain_.end(); }

 private:
  Limit limit_;
  Gain gain_;
};

std::unique_ptr<Stage> makeGain(const FinishPlan& plan, double gainDb, Stage& next) {
  const int channels = plan.form.channels;
  if (!plan.level.limitDb) return std::make_unique<Gain>(channels, gainOf(gainDb), next);
  return std::make_unique<LimitedGain>(channels, plan.extent.rate, gainOf(gainDb), *plan.level.limitDb, next);
}

/// Measures what goes by; `next` may be null.
class Listener : public Stage {
 public:
  Listener(LevelMeter& meter, Stage* next) : meter_(meter), next_(next) {}
  Result<> take(const SoundBlock& block) override {
    meter_.take(block.channels, block.frames);
    return next_ == nullptr ? Result<>{} : next_->take(block);
  }
  Result<> end() override {
    meter_.end();
    return next_ == nullptr ? Result<>{} : next_->end();
  }

 private:
  LevelMeter& meter_;
  Stage* next_;
};

}  // namespace

WaitForGain::WaitForGain(const FinishPlan& plan, Stage& next)
    : plan_(plan), next_(next), held_(plan.form.channels, plan.level.spool) {
  if (plan.level.measures) meter_.emplace(plan.form.channels, plan.extent.rate, *plan.level.measures);
  if (plan.level.gainDb && !plan.level.isMeasuredOnly) setGain(*plan.level.gainDb);
}

void WaitForGain::setGain(double gainDb) {
  Stage* next = &next_;
  if (plan_.level.judges) {
    behind_.emplace(plan_.form.channels, plan_.extent.rate, *plan_.level.judges);
    listens_ = std::make_unique<Listener>(*behind_, &next_);
    next = listens_.get();
  }
  gain_ = makeGain(plan_, gainDb, *next);
}

Result<> WaitForGain::take(const SoundBlock& block) {
  if (meter_) meter_->take(block.channels, block.frames);
  if (plan_.level.isMeasuredOnly) return {};
  return gain_ ? gain_->take(block) : held_.add(block, 0, block.frames);
}

Result<> WaitForGain::end() {
  if (meter_) meter_->end();
  // No gain comes of such a sound, for its siblings neither.
  if (meter_ && !std::isfinite(*meter_->levels().peakDb)) return fail(ErrorCode::NotFinite, plan_.form.place);
  return gain_ ? gain_->end() : Result<>{};
}

Result<double> WaitForGain::search(double gainDb) {
  constexpr int kMostTurns = 4;
  constexpr double kNear = 0.02;       // LU
  constexpr double kLeastSlope = 0.1;  // LU a dB: what is limited harder gets no louder
  double slope = 1, before = 0, gainBefore = gainDb;
  for (int turn = 0; turn < kMostTurns && plan_.level.searchedLufs; ++turn) {
    OCTAPHON_ASSIGN(const std::optional<double> heard, loudnessAt(gainDb));
    if (!heard || std::fabs(*heard - *plan_.level.searchedLufs) <= kNear) break;
    if (gainDb != gainBefore) slope = std::clamp((*heard - before) / (gainDb - gainBefore), kLeastSlope, 1.0);
    before = *heard, gainBefore = gainDb;
    gainDb = std::clamp(gainDb + (*plan_.level.searchedLufs - *heard) / slope, -kMaxGainDb, kMaxGainDb);
  }
  return gainDb;
}

Result<std::optional<double>> WaitForGain::loudnessAt(double gainDb) {
  LevelMeter meter(plan_.form.channels, plan_.extent.rate, {false, true});
  Listener listener(meter, nullptr);
  const std::unique_ptr<Stage> gain = makeGain(plan_, gainDb, listener);
  OCTAPHON_TRY(held_.showTo(*gain));
  OCTAPHON_TRY(gain->end());
  return meter.levels().lufs;
}

Result<> WaitForGain::release(double gainDb) {
  setGain(gainDb);
  OCTAPHON_TRY(held_.giveTo(*gain_, held_.frames()));
  return gain_->end();
}

}  // namespace octaphon
