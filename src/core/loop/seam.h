// How good the join of a loop is: 0 … 100, and what is wrong with it where it is not. docs/loops.md has the
// definition and what it was tried on.
#pragma once

#include <optional>
#include <string>

#include "loop/join_level.h"
#include "loop/join_pattern.h"

namespace octaphon {

/// Part scores are 0 … 1; the whole is the lowest of them.
struct Seam {
  double score = 100;             ///< 0 … 100; of silence 100
  std::optional<double> clickDb;  ///< over the sound's own errors: 0 or less is no click. Nothing of silence
  std::optional<JoinLevel> level;
  std::optional<JoinPattern> pattern;
  double clickScore = 1, levelScore = 1, spectrumScore = 1, rhythmScore = 1;

  /// How much the next beats come late (under 0: early), in ms; nothing where there is no clear beat.
  std::optional<double> pulseMs() const;
};

/// Laps of more than twice that are judged by so much of their beginning and of their end.
inline constexpr double kSeamSeconds = 4;

/// Of a lap as it is written. `goesOn`: how it would have gone on behind its end, where that is known. Takes
/// some 0.1 s a channel.
Seam measureSeam(const Lap& lap, const Lap* goesOn = nullptr);

/// In words, what is wrong first: `no click · 1.2 dB louder · 14 ms late`.
std::string seamText(const Seam& seam);

}  // namespace octaphon
