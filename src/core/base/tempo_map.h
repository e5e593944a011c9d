// Beats, metre and tempo against time. A session without one has no bars.
#pragma once

#include <string>
#include <vector>

#include "base/frames.h"

namespace octaphon {

/// From `at` on, until the next point: a constant tempo and metre. A point with another metre begins a bar.
struct TempoPoint {
  Frame at = 0;             ///< frames at the session's rate
  double bpm = 120;         ///< quarter notes a minute, 1 … 1000
  int beats = 4;            ///< beats in a bar, 1 … 64
  int unit = 4;             ///< note value of a beat: 1, 2, 4, 8, 16, 32 or 64
  std::string unknownKeys;  ///< JSON of keys that a newer version wrote; kept as they are
  bool operator==(const TempoPoint&) const = default;
};

struct MusicalPosition {
  long bar = 1;  ///< from 1
  int beat = 1;  ///< from 1
  int tick = 0;  ///< 960ths of a beat
};

/// Points sorted by `at`, the first at 0. Empty: there is no tempo map.
class TempoMap {
 public:
  TempoMap() = default;
  TempoMap(std::vector<TempoPoint> points, int rate);

  bool empty() const { return points_.empty(); }
  const std::vector<TempoPoint>& points() const { return points_; }

  /// Needs a map that is not empty; `frame` ≥ 0.
  MusicalPosition positionAt(Frame frame) const;
  /// The frame nearest to the beginning of a bar, counted from 1.
  Frame frameOfBar(long bar) const;
  /// The frame nearest to `bars` bars after another frame (before it where they are under 0). Bars are
  /// counted from the frame on and rounded once. May lie before 0: the first tempo goes on there.
  Frame frameAfterBars(Frame frame, double bars) const;
  /// Beats from one frame to a later one; a whole number where that is what bars rounded to frames mean.
  double beatsBetween(Frame from, Frame to) const;
  /// The beginning of the beat nearest to a frame.
  Frame nearestBeat(Frame frame) const;

 private:
  std::size_t stretchOfBar(double bar) const;
  struct Stretch {
    double firstBar;  ///< bars before it, as a number from 0
    double framesPerBeat;
  };
  std::vector<TempoPoint> points_;
  std::vector<Stretch> stretches_;
};

/// `bar 8, beat 3.80`: hundredths of a beat, cut off
std::string positionText(const MusicalPosition& position);

}  // namespace octaphon
