#include "loop/seam_search.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>

#include "base/samples.h"

namespace octaphon {
namespace {

constexpr double kWindowSeconds = 0.03;  // that are compared on either side of a join
constexpr Frame kLeastCompared = 32;     // frames; fewer say nothing
constexpr double kApartSeconds = 0.001;  // candidates lie so far from each other
constexpr std::size_t kMostLengths = 4;  // that are judged
constexpr Frame kLocal = 8;              // frames that the join itself is made of
constexpr double kNearZero = 0.1;        // what distance from zero counts against a step
constexpr double kFar = 0.02;            // what the whole reach counts against a difference of 0 … 2
constexpr double kTiny = 1e-12;

/// How different the surroundings of two places of a sound are.
class Likeness {
 public:
  explicit Likeness(const Lap& sound) : sound_(sound), window_(framesOf(kWindowSeconds, sound.rate)) {
    for (const std::vector<float>& channel : sound.channels) {
      std::vector<double>& energy = energies_.emplace_back(1, 0.0);
      energy.reserve(channel.size() + 1);
      for (const float sample : channel)
        energy.push_back(energy.back() + static_cast<double>(sample) * sample);
    }
  }

  /// 0 of equal ones, 1 of those without relation, 2 of opposite ones, and of those that cannot be compared.
  double difference(Frame a, Frame b) const {
    const Frame before = std::min({window_, a, b});
    const Frame after = std::min({window_, sound_.frames() - a, sound_.frames() - b});
    if (before + after < kLeastCompared) return 2;
    double energy = kTiny, common = 0;
    for (std::size_t c = 0; c < sound_.channels.size(); ++c) {
      const float* const samples = sound_.channels[c].data();
      energy += energyOf(c, a - before, a + after) + energyOf(c, b - before, b + after);
      common += productOfSamples(samples + a - before, samples + b - before, before + after);
    }
    return (energy - 2 * common) / energy;
  }

 private:
  double energyOf(std::size_t channel, Frame from, Frame to) const {
    return energies_[channel][static_cast<std::size_t>(to)] -
           energies_[channel][static_cast<std::size_t>(from)];
  }
  const Lap& sound_;
  Frame window_;
  std::vector<std::vector<double>> energies_;  // up to each frame
};

class Search {
 public:
  Search(const Lap& sound, LoopPlace asked, const LoopSearch& search)
      : sound_(sound), asked_(asked), search_(search), likeness_(sound) {}

  std::vector<LoopPlace> places() {
    add(asked_);
    if (!search_.isLengthKept) {
      findLengths();
      followBeat();
    }
    const std::vector<LoopPlace> unmoved = places_;
    for (const LoopPlace& place : unmoved) add(smoothest(place));
    return places_;
  }

 private:
  bool isAllowed(const LoopPlace& place) const {
    return place.length > 0 && place.start >= 0 && place.end() <= sound_.frames() &&
           std::abs(place.start - asked_.start) <= search_.reach &&
           std::abs(place.end() - asked_.end()) <= search_.reach;
  }
  void add(const LoopPlace& place) {
    if (isAllowed(place) && std::find(places_.begin(), places_.end(), place) == places_.end())
      places_.push_back(place);
  }

  /// Ends that go on most like the beginning.
  void findLengths() {
    const Frame from = std::max(asked_.start + 1, asked_.end() - search_.reach);
    const Frame to = std::min(sound_.frames(), asked_.end() + search_.reach);
    std::vector<double> difference(static_cast<std::size_t>(to - from + 1));
    tbb::parallel_for(from, to + 1, [&](Frame end) {
      const double far =
          static_cast<double>(std::abs(end - asked_.end())) / static_cast<double>(search_.reach + 1);
      difference[static_cast<std::size_t>(end - from)] = likeness_.difference(asked_.start, end) + kFar * far;
    });
    std::vector<std::pair<double, Frame>> minima;
    for (std::size_t i = 0; i < difference.size(); ++i)
      if ((i == 0 || difference[i] <= difference[i - 1]) &&
          (i + 1 == difference.size() || difference[i] < difference[i + 1]))
        minima.emplace_back(difference[i], from + static_cast<Frame>(i));
    std::sort(minima.begin(), minima.end());
    const Frame apart = framesOf(kApartSeconds, sound_.rate);
    for (const auto& [value, end] : minima) {
      if (places_.size() > kMostLengths) break;
      const bool isNew = std::none_of(places_.begin(), places_.end(), [&](const LoopPlace& place) {
        return place != asked_ && std::abs(place.end() - end) < apart;
      });
      if (isNew) add({asked_.start, end - asked_.start});
    }
  }

  /// Where the next beat comes early or late, the end that mends it; and once more from there.
  void followBeat() {
    LoopPlace place = asked_;
    for (int turn = 0; turn < 2 && isAllowed(place); ++turn) {
      const std::optional<double> late = measureSeam(partOf(sound_, place.start, place.length)).pulseMs();
      if (!late) return;
      place.length -= static_cast<Frame>(std::llround(*late / 1000 * sound_.rate));
      add(place);
    }
  }

  /// The same loop, begun where step and slope at its join are least, and near zero.
  LoopPlace smoothest(const LoopPlace& place) const {
    LoopPlace best = place;
    double least = roughness(place.start, place.length);
    for (Frame shift = -search_.reach; shift <= search_.reach; ++shift) {
      const LoopPlace moved{place.start + shift, place.length};
      if (!isAllowed(moved)) continue;
      const double rough = roughness(moved.start, moved.length);
      if (rough < least) least = rough, best = moved;
    }
    return best;
  }

  /// Around the join: what would follow the end against what does, in samples and slopes.
  double roughness(Frame start, Frame length) const {
    double sum = 0;
    for (const std::vector<float>& channel : sound_.channels) {
      const auto at = [&](Frame frame) {
        return frame < 0 || frame >= sound_.frames()
                   ? 0.0
                   : static_cast<double>(channel[static_cast<std::size_t>(frame)]);
      };
      double before = at(start + length - kLocal - 1) - at(start - kLocal - 1);
      for (Frame i = -kLocal; i < kLocal; ++i) {
        const double step = at(start + length + i) - at(start + i);
        sum += step * step + (step - before) * (step - before);
        before = step;
      }
      sum += kNearZero * at(start) * at(start);
    }
    return sum;
  }

  const Lap& sound_;
  LoopPlace asked_;
  const LoopSearch& search_;
  Likeness likeness_;
  std::vector<LoopPlace> places_;
};

}  // namespace

std::vector<LoopCandidate> searchLoop(const Lap& sound, LoopPlace asked, const LoopSearch& search,
                                      const JudgeLoop& judge) {
  const std::vector<LoopPlace> places = Search(sound, asked, search).places();
  std::vector<LoopCandidate> candidates(places.size());
  tbb::parallel_for(std::size_t{0}, places.size(), [&](std::size_t i) {
    candidates[i] = {
        places[i], judge ? judge(places[i]) : measureSeam(partOf(sound, places[i].start, places[i].length))};
  });
  const auto moved = [&](const LoopPlace& place) {
    return std::abs(place.start - asked.start) + std::abs(place.end() - asked.end());
  };
  std::stable_sort(candidates.begin(), candidates.end(), [&](const LoopCandidate& a, const LoopCandidate& b) {
    if (a.seam.score != b.seam.score) return a.seam.score > b.seam.score;
    return moved(a.place) < moved(b.place);
  });
  if (candidates.size() > search.most) candidates.resize(search.most);
  return candidates;
}

}  // namespace octaphon
