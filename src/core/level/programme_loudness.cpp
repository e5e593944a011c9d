#include "level/programme_loudness.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

namespace octaphon {
namespace {

constexpr Frame kSilence = 1024;
constexpr int kStepsPerSecond = 10;
constexpr std::size_t kBlockSteps = 4;   // 400 ms
constexpr std::size_t kRangeSteps = 30;  // 3 s
constexpr double kQuietest = -70;        // LUFS

double powerOf(double lufs) { return std::pow(10, (lufs + 0.691) / 10); }
double lufsOf(double power) { return 10 * std::log10(power) - 0.691; }

double meanOf(const std::vector<double>& values) {
  return std::accumulate(values.begin(), values.end(), 0.0) / static_cast<double>(values.size());
}

/// Those over so many LU under their mean.
void gate(std::vector<double>& powers, double under) {
  if (powers.empty()) return;
  const double least = meanOf(powers) * std::pow(10, -under / 10);
  std::erase_if(powers, [&](double power) { return power <= least; });
}

const float* silence() {
  static constexpr std::array<float, kSilence> zeros{};
  return zeros.data();
}

}  // namespace

double loudnessWeight(int channels, int channel) {
  constexpr double kSides = 1.41;
  constexpr int kLfe = 3;
  switch (channels) {
    case 4: return channel >= 2 ? kSides : 1;
    case 5: return channel >= 3 ? kSides : 1;
    case 6: return channel == kLfe ? 0 : channel > kLfe ? kSides : 1;
    case 7: return channel == kLfe ? 0 : channel >= 5 ? kSides : 1;
    case 8: return channel == kLfe ? 0 : channel >= 6 ? kSides : 1;
    default: return 1;
  }
}

ProgrammeLoudness::ProgrammeLoudness(int channels, int rate)
    : channels_(channels),
      rate_(rate),
      pairs_(static_cast<std::size_t>((channels + 1) / 2), KWeighting(rate)),
      sums_(2 * pairs_.size(), 0.0) {}

void ProgrammeLoudness::take(const float* const* channels, Frame frames) {
  std::vector<const float*> from(static_cast<std::size_t>(channels_));
  for (Frame done = 0; done < frames;) {
    const Frame next = static_cast<Frame>(steps_.size() + 1) * rate_ / kStepsPerSecond;
    const Frame most = channels == nullptr ? std::min(kSilence, frames - done) : frames - done;
    const Frame count = std::min(most, next - taken_);
    for (std::size_t c = 0; c < from.size(); ++c)
      from[c] = channels == nullptr ? silence() : channels[c] + done;
    takeStep(from.data(), count);
    done += count;
    if (taken_ == next) endStep();
  }
}

void ProgrammeLoudness::takeStep(const float* const* channels, Frame frames) {
  taken_ += frames;
  for (std::size_t p = 0; p < pairs_.size(); ++p) {
    const bool isAlone = 2 * p + 1 == static_cast<std::size_t>(channels_);
    for (Frame done = 0; done < frames; done += kSilence) {
      const float* const second = isAlone ? silence() : channels[2 * p + 1] + done;
      pairs_[p].addSquares(channels[2 * p] + done, second, std::min(kSilence, frames - done),
                           sums_.data() + 2 * p);
    }
  }
}

void ProgrammeLoudness::endStep() {
  double power = 0;
  for (int c = 0; c < channels_; ++c)
    power += loudnessWeight(channels_, c) * sums_[static_cast<std::size_t>(c)];
  steps_.push_back(power / static_cast<double>(taken_ - begun_));
  begun_ = taken_;
  std::fill(sums_.begin(), sums_.end(), 0.0);
}

std::vector<double> ProgrammeLoudness::meansOver(std::size_t steps, double least) const {
  std::vector<double> means;
  for (std::size_t i = 0; i + steps <= steps_.size(); ++i) {
    const auto from = steps_.begin() + static_cast<std::ptrdiff_t>(i);
    const double mean =
        std::accumulate(from, from + static_cast<std::ptrdiff_t>(steps), 0.0) / static_cast<double>(steps);
    if (mean > least) means.push_back(mean);
  }
  return means;
}

std::optional<double> ProgrammeLoudness::integrated() const {
  std::vector<double> blocks = meansOver(kBlockSteps, powerOf(kQuietest));
  gate(blocks, 10);
  if (blocks.empty()) return std::nullopt;
  return lufsOf(meanOf(blocks));
}

std::vector<double> ProgrammeLoudness::momentary() const {
  std::vector<double> all;
  for (const double mean : meansOver(kBlockSteps, -1)) all.push_back(lufsOf(mean));
  return all;
}

std::optional<double> ProgrammeLoudness::range() const {
  std::vector<double> stretches = meansOver(kRangeSteps, powerOf(kQuietest));
  gate(stretches, 20);
  if (stretches.empty()) return std::nullopt;
  std::sort(stretches.begin(), stretches.end());
  const auto at = [&](double share) {
    return lufsOf(
        stretches[static_cast<std::size_t>(std::lround(share * static_cast<double>(stretches.size() - 1)))]);
  };
  return at(0.95) - at(0.10);
}

}  // namespace octaphon
