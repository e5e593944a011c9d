#include "base/tempo_map.h"

#include <algorithm>
#include <cmath>

namespace octaphon {

TempoMap::TempoMap(std::vector<TempoPoint> points, int rate) : points_(std::move(points)) {
  double bar = 0;
  for (std::size_t i = 0; i < points_.size(); ++i) {
    const TempoPoint& point = points_[i];
    if (i > 0) {
      const Stretch& before = stretches_.back();
      const TempoPoint& previous = points_[i - 1];
      bar += static_cast<double>(point.at - previous.at) / (before.framesPerBeat * previous.beats);
      const bool newMetre = point.beats != previous.beats || point.unit != previous.unit;
      if (newMetre) bar = std::ceil(bar - 1e-9);
    }
    stretches_.push_back({bar, 60.0 / point.bpm * rate * 4.0 / point.unit});
  }
}

MusicalPosition TempoMap::positionAt(Frame frame) const {
  auto next = std::upper_bound(points_.begin(), points_.end(), frame,
                               [](Frame at, const TempoPoint& point) { return at < point.at; });
  const std::size_t index =
      next == points_.begin() ? 0 : static_cast<std::size_t>(next - points_.begin()) - 1;
  const TempoPoint& point = points_[index];
  const Stretch& stretch = stretches_[index];
  // 1e-6 of a beat: a position that is a bar's rounded frame counts as in that bar.
  const double half = 0.5 / stretch.framesPerBeat;
  const double beats =
      stretch.firstBar * point.beats + static_cast<double>(frame - point.at) / stretch.framesPerBeat;
  const double snapped = std::abs(beats - std::round(beats)) <= half ? std::round(beats) : beats;
  const double whole = std::floor(snapped);
  MusicalPosition position;
  position.bar = static_cast<long>(std::floor(whole / point.beats)) + 1;
  position.beat = static_cast<int>(whole - static_cast<double>(position.bar - 1) * point.beats) + 1;
  // A tick that is there but for rounding counts.
  position.tick = std::min(959, static_cast<int>((snapped - whole) * 960.0 + 1e-6));
  return position;
}

std::size_t TempoMap::stretchOfBar(double bar) const {
  std::size_t index = 0;
  while (index + 1 < stretches_.size() && stretches_[index + 1].firstBar <= bar) ++index;
  return index;
}

double TempoMap::beatsBetween(Frame from, Frame to) const {
  double beats = 0, half = 0;
  for (std::size_t i = 0; i < points_.size(); ++i) {
    const Frame begin = i == 0 ? from : std::max(from, points_[i].at);
    const Frame end = i + 1 < points_.size() ? std::min(to, points_[i + 1].at) : to;
    if (end <= begin) continue;
    beats += static_cast<double>(end - begin) / stretches_[i].framesPerBeat;
    half = std::max(half, 1 / stretches_[i].framesPerBeat);  // both ends are rounded by half a frame
  }
  return std::fabs(beats - std::round(beats)) <= half ? std::round(beats) : beats;
}

Frame TempoMap::frameAfterBars(Frame frame, double bars) const {
  const auto next = std::upper_bound(points_.begin(), points_.end(), frame,
                                     [](Frame at, const TempoPoint& point) { return at < point.at; });
  const std::size_t from = next == points_.begin() ? 0 : static_cast<std::size_t>(next - points_.begin()) - 1;
  const auto barFrames = [&](std::size_t index) {
    return stretches_[index].framesPerBeat * points_[index].beats;
  };
  const double wanted =
      stretches_[from].firstBar + static_cast<double>(frame - points_[from].at) / barFrames(from) + bars;
  const std::size_t to = stretchOfBar(wanted);
  const double after = (wanted - stretches_[to].firstBar) * barFrames(to);
  // A bar that a new metre cuts short ends where that begins.
  const Frame found = points_[to].at + static_cast<Frame>(std::llround(after));
  return to + 1 < points_.size() ? std::min(found, points_[to + 1].at) : found;
}

Frame TempoMap::frameOfBar(long bar) const {
  const double wanted = static_cast<double>(bar - 1);
  const std::size_t index = stretchOfBar(wanted);
  const double beats = (wanted - stretches_[index].firstBar) * points_[index].beats;
  return points_[index].at + static_cast<Frame>(std::llround(beats * stretches_[index].framesPerBeat));
}

Frame TempoMap::nearestBeat(Frame frame) const {
  const auto next = std::upper_bound(points_.begin(), points_.end(), frame,
                                     [](Frame at, const TempoPoint& point) { return at < point.at; });
  const std::size_t index =
      next == points_.begin() ? 0 : static_cast<std::size_t>(next - points_.begin()) - 1;
  const double framesPerBeat = stretches_[index].framesPerBeat;
  // The stretch may begin inside a bar: its beats are counted from the bar.
  const double before = stretches_[index].firstBar * points_[index].beats;
  const double beat =
      std::round(before + static_cast<double>(frame - points_[index].at) / framesPerBeat) - before;
  return std::max<Frame>(0, points_[index].at + static_cast<Frame>(std::llround(beat * framesPerBeat)));
}

std::string positionText(const MusicalPosition& position) {
  const int hundredths = position.beat * 100 + position.tick * 100 / 960;
  const std::string rest = std::to_string(hundredths % 100);
  return "bar " + std::to_string(position.bar) + ", beat " + std::to_string(hundredths / 100) +
         (rest.size() < 2 ? ".0" : ".") + rest;
}

}  // namespace octaphon
