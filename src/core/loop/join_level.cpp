#include "loop/join_level.h"

#include <numeric>

#include "loop/quantile.h"

namespace octaphon {
namespace {

constexpr double kSeconds = 0.4;  // that are compared on either side, or a quarter of the lap
constexpr Frame kLeastSteps = 4;
constexpr double kFloor = 1e-4;  // of the lap's mean energy: what is softer makes no difference
constexpr double kNearFloorDb = 6;
constexpr std::size_t kPlaces = 24, kMostPlaces = 100;
constexpr double kAsStrongDb = 3;
constexpr double kNearAll = 0.8;    // of a side's steps
constexpr double kLongSeconds = 1;  // after which a sound that only begins or ends has gone; or half the lap
constexpr double kHardlyAny = 0.1;  // of those steps
constexpr double kUsualShare = 0.9;
constexpr double kKnownLevelDb = 0.5, kKnownSpectrumDb = 1;

double inDb(double ratio) { return 10 * std::log10(ratio); }

BandValues energies(const BandValues& magnitude) {
  BandValues energy{};
  for (std::size_t band = 0; band < kOnsetBands; ++band) energy[band] = magnitude[band] * magnitude[band];
  return energy;
}

double totalOf(const BandValues& values) { return std::accumulate(values.begin(), values.end(), 0.0); }

/// What lies on either side of a place, `mean`: of the whole lap.
struct Sides {
  BandValues before{}, after{};
  double mean = 0;

  double levelDb() const {
    return inDb((totalOf(after) + kFloor * mean) / (totalOf(before) + kFloor * mean));
  }
  /// Root of the mean square over bands, the loud ones counting more, without what they have in common.
  double spectrumDb() const {
    BandValues change{}, weight{};
    const double floor = kFloor * mean / static_cast<double>(kOnsetBands);
    for (std::size_t band = 0; band < kOnsetBands; ++band) {
      change[band] = inDb((after[band] + floor) / (before[band] + floor));
      weight[band] = std::pow(before[band] + after[band], 0.3);
    }
    const double all = totalOf(weight);
    if (all <= 0) return 0;
    const double common = std::inner_product(change.begin(), change.end(), weight.begin(), 0.0) / all;
    double sum = 0;
    for (std::size_t band = 0; band < kOnsetBands; ++band)
      sum += weight[band] * (change[band] - common) * (change[band] - common);
    return std::sqrt(sum / all);
  }
};

class Levels {
 public:
  explicit Levels(const Onsets& onsets)
      : onsets_(onsets),
        steps_(std::min<Frame>(static_cast<Frame>(kSeconds / onsets.hopSeconds), onsets.steps() / 4)),
        longSteps_(
            std::min<Frame>(static_cast<Frame>(kLongSeconds / onsets.hopSeconds), onsets.steps() / 2)) {
    std::vector<BandValues> energy;
    for (const BandValues& magnitude : onsets.magnitude) energy.push_back(energies(magnitude));
    for (const BandValues& each : energy) mean_ += totalOf(each);
    mean_ /= std::max<double>(1, static_cast<double>(energy.size()));
    for (const BandValues& each : energy) levels_.push_back(inDb(totalOf(each) / (mean_ + 1e-30) + kFloor));
    addUp(energy);
  }

  Frame steps() const { return steps_; }

  Sides sidesOf(Frame step) const {
    Sides sides;
    sides.mean = mean_;
    sides.before = meanFrom(onsets_.wrapped(step - steps_));
    sides.after = meanFrom(onsets_.wrapped(step));
    return sides;
  }

  /// Over 0: all that comes for long is louder than nearly all before; under 0: all that was there for long
  /// is louder than nearly all behind.
  double stepDb(Frame step) const {
    const double before = share(step - steps_, steps_, kNearAll);
    // Out of silence anything may begin.
    const double rise =
        before < inDb(kFloor) + kNearFloorDb ? 0 : share(step, longSteps_, kHardlyAny) - before;
    const double fall = share(step - longSteps_, longSteps_, kHardlyAny) - share(step, steps_, kNearAll);
    return std::max(0.0, rise) - std::max(0.0, fall);
  }

  /// Steps where the onset is strongest for two steps around, and as strong as that at the join.
  std::vector<Frame> placesLikeJoin() const {
    const double wanted = onsets_.atJoin(2) + 1e-2;
    std::vector<std::pair<double, Frame>> places;
    for (Frame step = steps_; step < onsets_.steps() - steps_; ++step)
      if (isPeak(step)) {
        const double strength = onsets_.strength[static_cast<std::size_t>(step)] + 1e-2;
        places.emplace_back(std::fabs(20 * std::log10(strength / wanted)), step);
      }
    std::stable_sort(places.begin(), places.end(),
                     [](const auto& a, const auto& b) { return a.first < b.first; });
    std::size_t count = 0;
    while (count < places.size() && (count < kPlaces || places[count].first <= kAsStrongDb)) ++count;
    // Of more than enough, some of each strength.
    std::vector<Frame> steps;
    for (std::size_t i = 0; i < count; i += 1 + count / kMostPlaces) steps.push_back(places[i].second);
    return steps;
  }

 private:
  void addUp(const std::vector<BandValues>& energy) {
    sums_.resize(1);
    for (std::size_t i = 0; i < energy.size() + static_cast<std::size_t>(steps_); ++i) {
      BandValues sum = sums_.back();
      for (std::size_t band = 0; band < kOnsetBands; ++band) sum[band] += energy[i % energy.size()][band];
      sums_.push_back(sum);
    }
  }

  /// Over the steps of a side.
  BandValues meanFrom(std::size_t step) const {
    const BandValues &to = sums_[step + static_cast<std::size_t>(steps_)], &from = sums_[step];
    BandValues mean{};
    for (std::size_t band = 0; band < kOnsetBands; ++band)
      mean[band] = std::max(0.0, to[band] - from[band]) / static_cast<double>(steps_);
    return mean;
  }

  /// The level that a share of steps lies under.
  double share(Frame from, Frame count, double part) const {
    std::vector<double> levels;
    for (Frame i = from; i < from + count; ++i) levels.push_back(levels_[onsets_.wrapped(i)]);
    return quantile(std::move(levels), part);
  }

  bool isPeak(Frame step) const {
    for (Frame near = step - 2; near <= step + 2; ++near)
      if (onsets_.strength[onsets_.wrapped(near)] > onsets_.strength[onsets_.wrapped(step)]) return false;
    return true;
  }

  const Onsets& onsets_;
  Frame steps_, longSteps_;
  std::vector<BandValues> sums_;  // of the energy of all steps before each, and of a side's more
  std::vector<double> levels_;    // dB over the mean
  double mean_ = 0;
};

BandValues meanEnergy(const Lap& sound, Frame frames) {
  const Onsets onsets = onsetsOf(partOf(sound, 0, frames));
  BandValues mean{};
  for (const BandValues& magnitude : onsets.magnitude)
    for (std::size_t band = 0; band < kOnsetBands; ++band)
      mean[band] += magnitude[band] * magnitude[band] / static_cast<double>(onsets.magnitude.size());
  return mean;
}

}  // namespace

std::optional<JoinLevel> joinLevel(const Onsets& onsets) {
  const Levels levels(onsets);
  if (levels.steps() < kLeastSteps) return std::nullopt;
  std::vector<double> level, step, spectrum;
  for (const Frame place : levels.placesLikeJoin()) {
    const Sides sides = levels.sidesOf(place);
    level.push_back(sides.levelDb());
    spectrum.push_back(sides.spectrumDb());
    step.push_back(std::fabs(levels.stepDb(place)));
  }
  const double usual = quantile(level, 0.5);
  for (double& value : level) value = std::fabs(value - usual);
  const Sides join = levels.sidesOf(0);
  return JoinLevel{join.levelDb() - usual, quantile(level, kUsualShare),
                   levels.stepDb(0),       quantile(step, kUsualShare),
                   join.spectrumDb(),      quantile(spectrum, kUsualShare)};
}

JoinLevel levelAgainst(const Lap& lap, const Lap& goesOn) {
  const Frame frames = std::min(lap.frames(), goesOn.frames());
  Sides sides;
  sides.before = meanEnergy(goesOn, frames);
  sides.after = meanEnergy(lap, frames);
  sides.mean = std::max(totalOf(sides.before), totalOf(sides.after));
  const double level = sides.mean > 0 ? sides.levelDb() : 0;
  return {level,           kKnownLevelDb, level, kKnownLevelDb, sides.mean > 0 ? sides.spectrumDb() : 0,
          kKnownSpectrumDb};
}

}  // namespace octaphon
