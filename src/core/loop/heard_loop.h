// A loop and what lies around it, as far as its join is judged and heard by it.
#pragma once

#include <optional>
#include <vector>

#include "loop/seam_search.h"

namespace octaphon {

/// The sound around a loop's beginning and end; the middle of a long one says nothing and is left out.
struct HeardLoop {
  // Held are the frames from `first` to `headTo` and from `tailFrom` to `last`, which may be one stretch.
  Frame first = 0, headTo = 0, tailFrom = 0, last = 0;
  Lap sound;
  std::vector<LoopPlace>
      goesOn;  ///< stretches that sound: across an end in one it is known how it would go on

  /// Room for a loop whose beginning and end may be moved `reach` frames or 2 s to either side, within `all`.
  static HeardLoop around(LoopPlace place, Frame reach, int rate, int channels, LoopPlace all);

  /// Takes what is to be held of the frames from `at` on, which come in their order; null: silence.
  void take(const float* const* channels, Frame at, Frame frames);
  /// Whether all that a join there is judged by is held.
  bool holds(LoopPlace place) const;
  /// Of one channel; 0 where nothing is held.
  float at(std::size_t channel, Frame frame) const;
  /// The next frame where the sum of all channels goes through zero, in the direction of `step`, +1 or −1;
  /// nothing where none is held.
  std::optional<Frame> nextZero(Frame from, Frame step) const;
  /// So many frames from one on, which all lie on one side of what is left out; silence where nothing is
  /// held.
  Lap part(Frame from, Frame frames) const { return partOf(sound, inSound(from), frames); }

  /// Of a place that is held.
  Seam seamAt(LoopPlace place) const;
  std::vector<LoopCandidate> search(LoopPlace place, Frame reach) const;

 private:
  Frame inSound(Frame frame) const { return frame - first - (frame < tailFrom ? 0 : tailFrom - headTo); }
  LoopPlace inSound(LoopPlace place) const;
  LoopPlace outOfSound(LoopPlace place) const {
    return {place.start + first, place.length + tailFrom - headTo};
  }
};

/// A loop that was found somewhere, how good its join is, and better places nearby.
struct FoundSeam {
  HeardLoop heard;
  LoopPlace place;  ///< in frames of the session or of the file
  Seam seam;
  std::vector<LoopCandidate> candidates;  ///< the best first; empty where none were looked for

  int rate() const { return heard.sound.rate; }  ///< Hz
};

/// Judges a loop that is heard.
FoundSeam judged(HeardLoop heard, LoopPlace place, Frame reach);

}  // namespace octaphon
