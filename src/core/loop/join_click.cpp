#include "loop/join_click.h"

#include <array>
#include <numbers>
#include <numeric>
#include <span>

#include "base/samples.h"
#include "loop/quantile.h"

namespace octaphon {
namespace {

constexpr std::size_t kOrder = 24;
constexpr Frame kWindow = 2048;  // frames that prediction is learnt from
constexpr Frame kAhead = 3;      // frames that are predicted
constexpr std::size_t kPlaces = 96;
constexpr Frame kMargin = 8;       // steps around the join that are no places to compare with
constexpr double kRest = 1e-6;     // quieter than that is silence
constexpr double kOfOnset = 2;     // an onset's first samples may be so much of its loudness
constexpr double kOutOfQuiet = 4;  // so many times louder
constexpr double kUsualShare = 0.9;
constexpr double kInaudible = 3e-3;  // of the sound's loudness: smaller errors are not heard

using Coefficients = std::array<double, kOrder>;

/// A channel of a lap, read forwards or backwards and round and round.
class Direction {
 public:
  Direction(const std::vector<float>& samples, bool isBackwards)
      : samples_(samples), frames_(static_cast<Frame>(samples.size())), isBackwards_(isBackwards) {}

  /// The frames from one on, which may be before the first.
  void copy(Frame from, std::span<double> to) const {
    Frame inside = ((isBackwards_ ? -1 - from : from) % frames_ + frames_) % frames_;
    const Frame last = isBackwards_ ? 0 : frames_ - 1, first = frames_ - 1 - last;
    for (double& sample : to) {
      sample = static_cast<double>(samples_[static_cast<std::size_t>(inside)]);
      inside = inside == last ? first : isBackwards_ ? inside - 1 : inside + 1;
    }
  }
  /// A place as this direction counts it.
  Frame place(Frame frame) const { return isBackwards_ ? -frame : frame; }

 private:
  const std::vector<float>& samples_;
  Frame frames_;
  bool isBackwards_;
};

const std::array<double, static_cast<std::size_t>(kWindow)>& window() {
  static const auto values = [] {
    std::array<double, static_cast<std::size_t>(kWindow)> made{};
    for (std::size_t i = 0; i < made.size(); ++i)
      made[i] = 0.5 - 0.5 * std::cos(2 * std::numbers::pi * static_cast<double>(i) / (kWindow - 1));
    return made;
  }();
  return values;
}

/// Of the samples with themselves `lag` later; in lanes, so that it does not wait for itself.
OCTAPHON_WIDE double productOf(const std::array<double, static_cast<std::size_t>(kWindow)>& samples,
                               std::size_t lag) {
  constexpr std::size_t kLanes = 8;
  std::array<double, kLanes> lanes{};
  const std::size_t count = samples.size() - lag;
  for (std::size_t i = 0; i + kLanes <= count; i += kLanes)
    for (std::size_t lane = 0; lane < kLanes; ++lane)
      lanes[lane] += samples[i + lane] * samples[i + lane + lag];
  double sum = std::accumulate(lanes.begin(), lanes.end(), 0.0);
  for (std::size_t i = count / kLanes * kLanes; i < count; ++i) sum += samples[i] * samples[i + lag];
  return sum;
}

/// By autocorrelation, solved by Levinson and Durbin.
Coefficients learn(const std::array<double, static_cast<std::size_t>(kWindow)>& samples) {
  std::array<double, kOrder + 1> r{};
  for (std::size_t lag = 0; lag <= kOrder; ++lag) r[lag] = productOf(samples, lag);
  r[0] = r[0] * (1 + 1e-9) + 1e-12;
  Coefficients a{};
  double error = r[0];
  for (std::size_t order = 0; order < kOrder; ++order) {
    double reflection = r[order + 1];
    for (std::size_t i = 0; i < order; ++i) reflection -= a[i] * r[order - i];
    reflection /= error;
    Coefficients next = a;
    next[order] = reflection;
    for (std::size_t i = 0; i < order; ++i) next[i] = a[i] - reflection * a[order - 1 - i];
    a = next;
    error *= 1 - reflection * reflection;
  }
  return a;
}

/// The largest error of the frames from `place` on, predicted out of those before.
double errorAt(const Direction& sound, Frame place) {
  constexpr auto kHere = static_cast<std::size_t>(kWindow);
  std::array<double, static_cast<std::size_t>(kWindow + kAhead)> samples{};
  sound.copy(place - kWindow, samples);
  std::array<double, kHere> before{};
  double loudest = 0;
  for (std::size_t i = 0; i < kHere; ++i) {
    loudest = std::max(loudest, std::fabs(samples[i]));
    before[i] = samples[i] * window()[i];
  }
  const Coefficients a = loudest < kRest ? Coefficients{} : learn(before);
  double largest = 0;
  for (std::size_t at = kHere; at < samples.size(); ++at) {
    double error = samples[at];
    for (std::size_t i = 0; i < kOrder; ++i) error -= a[i] * samples[at - 1 - i];
    largest = std::max(largest, std::fabs(error));
  }
  return largest;
}

double loudnessOf(std::span<const float> samples) {
  double sum = 0;
  for (const float sample : samples) sum += static_cast<double>(sample) * static_cast<double>(sample);
  return std::sqrt(sum / static_cast<double>(samples.size()));
}

/// How much louder the first 10 ms are than the last ones; of something short out of the quiet, the first
/// millisecond. 0 or more.
double riseAtJoin(std::span<const float> samples, int rate) {
  const auto partOf = [&](int parts) {
    return std::clamp<std::size_t>(static_cast<std::size_t>(rate / parts), 1, samples.size());
  };
  const double before = loudnessOf(samples.last(partOf(100)));
  const double after = loudnessOf(samples.first(partOf(100)));
  const double atOnce = loudnessOf(samples.first(partOf(1000)));
  return std::max(0.0, (atOnce > kOutOfQuiet * before ? std::max(after, atOnce) : after) - before);
}

/// Places whose onset is nearest to the join's in strength; a few frames beside the middle of their step, so
/// that they keep no rhythm.
std::vector<Frame> placesLike(const Onsets& onsets) {
  const double wanted = std::log(onsets.atJoin(1) + 1e-6);
  std::vector<Frame> steps;
  for (Frame step = kMargin + 1; step < onsets.steps() - kMargin; ++step) steps.push_back(step);
  const auto distance = [&](Frame step) {
    return std::fabs(std::log(onsets.strength[static_cast<std::size_t>(step)] + 1e-6) - wanted);
  };
  std::stable_sort(steps.begin(), steps.end(), [&](Frame a, Frame b) { return distance(a) < distance(b); });
  if (steps.size() > kPlaces) steps.resize(kPlaces);
  for (Frame& step : steps) step = step * onsets.hop + step * 37 % (2 * onsets.hop) - onsets.hop;
  return steps;
}

/// Of a lap too short for onsets: all over it.
std::vector<Frame> placesAllOver(Frame frames) {
  std::vector<Frame> places;
  const Frame apart = std::max<Frame>(1, frames / static_cast<Frame>(kPlaces));
  for (Frame place = kAhead + 1; place < frames - kAhead; place += apart) places.push_back(place);
  return places;
}

double clickOf(const Direction& sound, const std::vector<Frame>& places, double allowed, double floor) {
  std::vector<double> errors;
  for (const Frame place : places) errors.push_back(errorAt(sound, sound.place(place)));
  const double usual = std::max(quantile(std::move(errors), kUsualShare), allowed);
  return 20 * std::log10((errorAt(sound, 0) + floor) / (usual + floor));
}

}  // namespace

double joinClick(const Lap& lap, const Onsets& onsets) {
  const bool isShort = onsets.steps() < 4 * kMargin;
  const std::vector<Frame> places = isShort ? placesAllOver(lap.frames()) : placesLike(onsets);
  double worst = -200;
  for (const std::vector<float>& channel : lap.channels) {
    const std::span<const float> samples(channel);
    const double loudness = loudnessOf(samples);
    if (loudness < kRest) continue;
    const Direction forwards(channel, false), backwards(channel, true);
    const double floor = kInaudible * loudness;
    const double ahead = clickOf(forwards, places, kOfOnset * riseAtJoin(samples, lap.rate), floor);
    // A sudden beginning cannot be predicted from either side, a click neither; the gentler one is heard.
    worst = std::max(worst, std::min(ahead, clickOf(backwards, places, 0, floor)));
  }
  return worst;
}

}  // namespace octaphon
