// Whether the rhythm of a lap goes on across its join, and how early or late.
#pragma once

#include <optional>

#include "loop/onsets.h"

namespace octaphon {

struct JoinPattern {
  double trust = 0;     ///< 0 … 1: how clearly the sound repeats with a period
  double goesOn = 0;    ///< 1: the pattern goes on across the join as it does inside; 0 or less: not at all
  double metAgain = 0;  ///< the same at the best place within 60 ms
  double lateMs = 0;    ///< that place: over 0, the next beats come so much late
  double lateRangeMs = 0;  ///< inside, three in four come nearer than that
  double pulseTrust = 0;   ///< 0 … 1: how clearly beats stand on both sides of the join
  double pulseLateMs = 0;  ///< the same from the phase of the beat alone
  double pulseRangeMs = 0;
  double pulseMs = 0;  ///< period of that beat
};

/// Periods of 0.12 to 2.2 s that repeat inside. Nothing where nothing begins, or no period is there.
std::optional<JoinPattern> joinPattern(const Onsets& onsets);

}  // namespace octaphon
