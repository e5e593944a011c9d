#include "level/level_meter.h"

#include <algorithm>
#include <bit>
#include <cstdint>

#include "base/decibels.h"
#include "base/samples.h"

namespace octaphon {

LevelMeter::LevelMeter(int channels, int rate, LevelsAsked asked) : channels_(channels), asked_(asked) {
  if (asked.truePeak) truePeak_.emplace(channels);
  if (asked.loudness) loudness_.emplace(channels, rate);
}

void LevelMeter::take(const float* const* channels, Frame frames) {
  constexpr std::int32_t kInfinity = 0x7F800000;  // and what is no number stands above it
  for (int c = 0; c < channels_ && channels != nullptr; ++c)
    peak_ =
        std::max(peak_, std::bit_cast<float>(std::min(kInfinity, largestMagnitudeBits(channels[c], frames))));
  if (truePeak_) truePeak_->take(channels, frames);
  if (loudness_) loudness_->take(channels, frames);
}

void LevelMeter::end() {
  if (truePeak_) truePeak_->end();
}

Levels LevelMeter::levels() const {
  Levels levels;
  levels.measured = asked_;
  levels.peakDb = decibelsOf(peak_);
  if (truePeak_) levels.truePeakDb = decibelsOf(std::max(static_cast<double>(peak_), truePeak_->peak()));
  if (!loudness_) return levels;
  if (levels.isSilent()) {
    levels.lufs = kSilenceDb;
    return levels;
  }
  levels.lufs = loudness_->integrated();
  levels.rangeLu = loudness_->range();
  return levels;
}

}  // namespace octaphon
