#include "loop/join_pattern.h"

#include <complex>
#include <numbers>
#include <numeric>
#include <utility>

#include "base/samples.h"
#include "loop/quantile.h"

namespace octaphon {
namespace {

constexpr double kLeastPeriod = 0.12, kMostPeriod = 2.8;  // seconds
constexpr double kLeastAlike = 0.15;                      // correlation of what counts as repeating
constexpr std::size_t kMostPeriods = 4;
constexpr double kLeastOnset = 2;  // strength of the strongest, of a sound that has any
constexpr Frame kLeastSteps = 64;
constexpr double kReach = 0.06;  // seconds of early or late
constexpr std::size_t kMostPlaces = 24;
constexpr double kTiny = 1e-12;

struct Period {
  Frame steps;
  double alike;
};

/// The rises of a lap without their mean, compared with themselves; steps from a lap before to two after.
class Pattern {
 public:
  explicit Pattern(const Onsets& onsets) : steps_(onsets.steps()), splice_(onsets.splice) {
    BandValues mean{};
    for (const BandValues& rise : onsets.rise)
      for (std::size_t band = 0; band < kOnsetBands; ++band)
        mean[band] += rise[band] / static_cast<double>(steps_);
    squares_.push_back(0);
    for (int lap = 0; lap < kLaps; ++lap)
      for (const BandValues& rise : onsets.rise) {
        double square = 0;
        for (std::size_t band = 0; band < kOnsetBands; ++band) {
          const double value = rise[band] - mean[band];
          rises_.push_back(static_cast<float>(value));
          square += value * value;
        }
        squares_.push_back(squares_.back() + square);
      }
  }

  Frame steps() const { return steps_; }
  /// Whether a stretch inside the lap goes on without a splice.
  bool isWhole(Frame from, Frame to) const { return from >= splice_ || to <= splice_; }
  /// The longest period that is met again on each side of a splice.
  Frame longestPeriod() const {
    return splice_ > 0 ? std::min(splice_, steps_ - splice_) * 3 / 4 : steps_ / 2;
  }

  /// How alike a stretch and the one `lag` later are; hardly, where something strong is in one of them only.
  double alike(Frame from, Frame count, Frame lag) const { return alikeOf(compare(from, count, lag)); }
  /// How alike all of it and what is `lag` later are.
  double alikeInside(Frame lag) const {
    const Compared before = compare(0, splice_ - lag, lag),
                   behind = compare(splice_, steps_ - splice_ - lag, lag);
    return alikeOf({before.common + behind.common, before.energy + behind.energy});
  }

 private:
  struct Compared {
    double common = 0, energy = 0;
  };
  static double alikeOf(const Compared& compared) { return 2 * compared.common / (compared.energy + kTiny); }

  Compared compare(Frame from, Frame count, Frame lag) const {
    if (count <= 0) return {};
    const auto a = static_cast<std::size_t>(from + steps_), b = static_cast<std::size_t>(from + lag + steps_);
    const auto n = static_cast<std::size_t>(count);
    constexpr auto kBands = static_cast<Frame>(kOnsetBands);
    return {
        productOfSamples(rises_.data() + a * kOnsetBands, rises_.data() + b * kOnsetBands, count * kBands),
        squares_[a + n] - squares_[a] + squares_[b + n] - squares_[b]};
  }

  static constexpr int kLaps = 3;
  Frame steps_, splice_;
  std::vector<float> rises_;     // all bands of a step side by side
  std::vector<double> squares_;  // of all before a step
};

/// The periods that the inside repeats with most clearly.
std::vector<Period> periodsOf(const Pattern& pattern, double stepSeconds) {
  const auto least = static_cast<Frame>(kLeastPeriod / stepSeconds);
  const Frame most = std::min(static_cast<Frame>(kMostPeriod / stepSeconds), pattern.longestPeriod());
  std::vector<double> alike;
  for (Frame lag = least; lag < most; ++lag) alike.push_back(pattern.alikeInside(lag));
  std::vector<Period> periods;
  for (std::size_t i = 1; i + 1 < alike.size(); ++i)
    if (alike[i] >= alike[i - 1] && alike[i] >= alike[i + 1] && alike[i] >= kLeastAlike)
      periods.push_back({least + static_cast<Frame>(i), alike[i]});
  std::stable_sort(periods.begin(), periods.end(),
                   [](const Period& a, const Period& b) { return a.alike > b.alike; });
  if (periods.size() > kMostPeriods) periods.resize(kMostPeriods);
  return periods;
}

/// How alike what is before a place and what comes a period later are, by how early or late that is looked
/// for.
class AcrossPlace {
 public:
  AcrossPlace(const Pattern& pattern, const std::vector<Period>& periods, Frame reach, Frame place)
      : reach_(reach), alike_(static_cast<std::size_t>(2 * reach + 1), 0.0) {
    double weights = 0;
    for (const Period& period : periods) weights += period.alike;
    for (const Period& period : periods)
      for (Frame late = -reach; late <= reach; ++late)
        alike_[static_cast<std::size_t>(late + reach)] +=
            pattern.alike(place - period.steps - reach, period.steps + reach, period.steps + late) *
            period.alike / weights;
  }

  double onTime() const { return alike_[static_cast<std::size_t>(reach_)]; }
  double best() const { return alike_[peak()]; }
  /// Steps; under 0: early. Between steps by a parabola.
  double late() const {
    const std::size_t at = peak();
    double between = 0;
    if (at > 0 && at + 1 < alike_.size()) {
      const double curve = alike_[at - 1] - 2 * alike_[at] + alike_[at + 1];
      if (curve < 0) between = 0.5 * (alike_[at - 1] - alike_[at + 1]) / curve;
    }
    return static_cast<double>(at) - static_cast<double>(reach_) + between;
  }

 private:
  std::size_t peak() const {
    return static_cast<std::size_t>(std::max_element(alike_.begin(), alike_.end()) - alike_.begin());
  }
  Frame reach_;
  std::vector<double> alike_;
};

void findPattern(JoinPattern& found, const Pattern& pattern, const std::vector<Period>& periods,
                 double stepSeconds) {
  const auto reach = static_cast<Frame>(kReach / stepSeconds);
  Frame longest = 0;
  for (const Period& period : periods) longest = std::max(longest, period.steps);
  std::vector<double> onTime, late;
  for (Frame place = longest + reach;
       place < pattern.steps() - longest - reach && onTime.size() < kMostPlaces;
       place += std::max<Frame>(1, longest / 4)) {
    if (!pattern.isWhole(place - longest - reach, place + longest + reach)) continue;
    const AcrossPlace inside(pattern, periods, reach, place);
    onTime.push_back(inside.onTime());
    late.push_back(std::fabs(inside.late()) * stepSeconds * 1000);
  }
  const double usual = std::max(quantile(onTime, 0.5, periods.front().alike), kLeastAlike);
  const AcrossPlace join(pattern, periods, reach, 0);
  found.trust = std::clamp((periods.front().alike - kLeastAlike) / 0.25, 0.0, 1.0);
  found.goesOn = join.onTime() / usual;
  found.metAgain = join.best() / usual;
  found.lateMs = join.late() * stepSeconds * 1000;
  found.lateRangeMs = late.size() > 3 ? quantile(late, 0.75) : 0;
}

/// A beat of some period, as a turning pointer: the onsets before a step, each turned by its time.
class Beat {
 public:
  Beat(const std::vector<double>& onsets, double period) : period_(period) {
    turned_.push_back(0);
    plain_.push_back(0);
    const std::complex<double> turn = std::polar(1.0, -2 * std::numbers::pi / period);
    std::complex<double> now = 1;
    for (const double onset : onsets) {
      turned_.push_back(turned_.back() + onset * now);
      plain_.push_back(plain_.back() + onset);
      now *= turn;
    }
  }

  /// 0 … 1: all onsets stand at one place of the period.
  double clearness(std::size_t from, std::size_t to) const {
    return std::abs(turned_[to] - turned_[from]) / (plain_[to] - plain_[from] + 1e-9);
  }
  std::complex<double> pointer(std::size_t from, std::size_t to) const { return turned_[to] - turned_[from]; }
  /// Steps by which the pointer `after` is late against `before`.
  double lateness(std::complex<double> before, std::complex<double> after) const {
    return -std::arg(after * std::conj(before)) / (2 * std::numbers::pi) * period_;
  }
  double period() const { return period_; }

 private:
  double period_;
  std::vector<std::complex<double>> turned_;  // up to each step
  std::vector<double> plain_;
};

std::vector<double> overMedian(const std::vector<double>& strength) {
  const double median = quantile(strength, 0.5);
  std::vector<double> over;
  for (const double value : strength) over.push_back(std::max(0.0, value - median));
  return over;
}

/// How clearly onsets stand at one place of a period; at one of each side of a splice.
double clearnessOf(const std::vector<double>& onsets, std::size_t splice, double period) {
  const std::complex<double> turn = std::polar(1.0, -2 * std::numbers::pi / period);
  std::complex<double> now = 1, sum = 0;
  double before = 0;
  for (std::size_t i = 0; i < onsets.size(); ++i) {
    if (i == splice) before = std::abs(std::exchange(sum, 0));
    sum += onsets[i] * now;
    now = {now.real() * turn.real() - now.imag() * turn.imag(),
           now.real() * turn.imag() + now.imag() * turn.real()};
  }
  return before + std::abs(sum);
}

/// The clearest beat near a period or a whole part of one; nothing where all are too fast.
std::optional<Beat> clearestBeat(const std::vector<double>& onsets, std::size_t splice,
                                 const std::vector<Period>& periods, double stepSeconds) {
  double clearest = -1, best = 0;
  for (const Period& period : periods)
    for (int parts = 1; parts <= 4; ++parts) {
      const double around = static_cast<double>(period.steps) / parts;
      if (around < kLeastPeriod / stepSeconds) continue;
      for (int i = -30; i <= 30; ++i) {
        const double near = around * (1 + 0.001 * i), clearness = clearnessOf(onsets, splice, near);
        if (clearness > clearest) clearest = clearness, best = near;
      }
    }
  return clearest < 0 ? std::nullopt : std::optional<Beat>(std::in_place, onsets, best);
}

void findPulse(JoinPattern& found, const Onsets& onsets, const Pattern& pattern,
               const std::vector<Period>& periods) {
  const std::vector<double> strength = overMedian(onsets.strength);
  const std::optional<Beat> beat =
      clearestBeat(strength, static_cast<std::size_t>(onsets.splice), periods, onsets.hopSeconds);
  if (!beat) return;
  const double stepMs = onsets.hopSeconds * 1000;
  const std::size_t steps = strength.size();
  const double wanted = std::max(2 * beat->period(), std::min(4 * beat->period(), 1.5 / onsets.hopSeconds));
  const std::size_t side = std::min(static_cast<std::size_t>(wanted), steps / 2);
  const std::complex<double> goneOn =
      beat->pointer(0, side) *
      std::polar(1.0, -2 * std::numbers::pi * static_cast<double>(steps) / beat->period());
  std::vector<double> inside;
  for (std::size_t at = side; at + side < steps;
       at += std::max<std::size_t>(1, static_cast<std::size_t>(beat->period() / 4)))
    if (pattern.isWhole(static_cast<Frame>(at - side), static_cast<Frame>(at + side)) &&
        beat->clearness(at - side, at) > 0.2 && beat->clearness(at, at + side) > 0.2)
      inside.push_back(std::fabs(beat->lateness(beat->pointer(at - side, at), beat->pointer(at, at + side))) *
                       stepMs);
  const double clearness = std::min(beat->clearness(steps - side, steps), beat->clearness(0, side));
  found.pulseTrust = std::clamp((clearness - 0.25) / 0.25, 0.0, 1.0);
  found.pulseLateMs = beat->lateness(beat->pointer(steps - side, steps), goneOn) * stepMs;
  found.pulseRangeMs = inside.size() > 3 ? quantile(inside, 0.75) : 0;
  found.pulseMs = beat->period() * stepMs;
}

}  // namespace

std::optional<JoinPattern> joinPattern(const Onsets& onsets) {
  if (onsets.steps() < kLeastSteps) return std::nullopt;
  if (*std::max_element(onsets.strength.begin(), onsets.strength.end()) < kLeastOnset) return std::nullopt;
  const Pattern pattern(onsets);
  const std::vector<Period> periods = periodsOf(pattern, onsets.hopSeconds);
  if (periods.empty()) return std::nullopt;
  JoinPattern found;
  findPattern(found, pattern, periods, onsets.hopSeconds);
  findPulse(found, onsets, pattern, periods);
  return found;
}

}  // namespace octaphon
