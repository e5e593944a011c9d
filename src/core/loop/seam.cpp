#include "loop/seam.h"

#include <algorithm>
#include <cmath>

#include "base/decibels.h"
#include "loop/join_click.h"

namespace octaphon {
namespace {

constexpr double kSilence = 1e-6;
constexpr double kHopelessClickDb = 24;
constexpr double kLevelHalfDb = 6, kSpectrumHalfDb = 12, kLateHalfMs = 6, kPulseHalfMs = 10;
constexpr double kFreeLevelDb = 1, kFreeSpectrumDb = 3, kFreeLateMs = 2;
constexpr double kHeardClickDb = 3;  // less is no click that one hears
constexpr double kInOrder = 0.85;    // of a part's score
constexpr double kMetAgain = 0.6, kNotMet = 0.25;

/// 1 of nothing, ½ where it is `half` too much.
double falling(double tooMuch, double half) {
  const double x = std::max(0.0, tooMuch) / half;
  return 1 / (1 + x * x);
}

/// How far the place of the pattern is to be believed, against that of the beat alone.
double placeTrust(const JoinPattern& p) {
  return p.trust * std::clamp((p.metAgain - kNotMet) / (kMetAgain - kNotMet), 0.0, 1.0);
}

double rhythmScoreOf(const JoinPattern& p) {
  const double place = falling(std::fabs(p.lateMs) - std::max(kFreeLateMs, p.lateRangeMs), kLateHalfMs);
  const double beat = falling(std::fabs(p.pulseLateMs) - std::max(kFreeLateMs, p.pulseRangeMs), kPulseHalfMs);
  const double trust = placeTrust(p);
  const double onTime = trust * place + (1 - trust) * (1 - p.pulseTrust * (1 - beat));
  return onTime * (1 - 0.6 * p.trust * (1 - std::clamp(p.goesOn, 0.0, 1.0)));
}

void scoreLevel(Seam& seam) {
  const JoinLevel& l = *seam.level;
  const double tooMuch = std::min(std::fabs(l.levelDb) - std::max(kFreeLevelDb, l.levelRangeDb),
                                  std::fabs(l.stepDb) - l.stepRangeDb);
  seam.levelScore = falling(tooMuch, kLevelHalfDb);
  seam.spectrumScore = falling(l.spectrumDb - std::max(kFreeSpectrumDb, l.spectrumRangeDb), kSpectrumHalfDb);
}

}  // namespace

std::optional<double> Seam::pulseMs() const {
  if (!pattern) return std::nullopt;
  if (placeTrust(*pattern) >= 0.3) return pattern->lateMs;
  if (pattern->pulseTrust >= 0.5) return pattern->pulseLateMs;
  return std::nullopt;
}

Seam measureSeam(const Lap& lap, const Lap* goesOn) {
  Seam seam;
  if (peakOf(lap) < kSilence) return seam;
  const Lap around = aroundJoin(lap, framesOf(kSeamSeconds, lap.rate));
  const Onsets onsets = onsetsOf(around);
  seam.clickDb = joinClick(around, onsets);
  seam.clickScore = std::clamp(1 - *seam.clickDb / kHopelessClickDb, 0.0, 1.0);
  const bool isKnown = goesOn != nullptr && goesOn->frames() > lap.rate / 20;
  seam.level = isKnown ? levelAgainst(lap, *goesOn) : joinLevel(onsets);
  if (seam.level) scoreLevel(seam);
  seam.pattern = joinPattern(onsets);
  if (seam.pattern) seam.rhythmScore = rhythmScoreOf(*seam.pattern);
  seam.score = 100 * std::min({seam.clickScore, seam.levelScore, seam.spectrumScore, seam.rhythmScore});
  return seam;
}

std::string seamText(const Seam& seam) {
  if (!seam.clickDb) return "silence";
  std::string words =
      *seam.clickDb <= kHeardClickDb ? "no click" : "a click, " + decibelText(*seam.clickDb) + " dB";
  if (seam.level && seam.levelScore < kInOrder)
    words += " · " + decibelText(std::fabs(seam.level->levelDb)) +
             (seam.level->levelDb > 0 ? " dB louder" : " dB softer");
  if (seam.level && seam.spectrumScore < kInOrder) words += " · another colour";
  const std::optional<double> late = seam.pulseMs();
  if (late && std::fabs(*late) > kFreeLateMs && seam.rhythmScore < kInOrder)
    words += " · " + std::to_string(std::lround(std::fabs(*late))) + (*late > 0 ? " ms late" : " ms early");
  else if (seam.rhythmScore < kInOrder)
    words += " · the rhythm breaks";
  return words;
}

}  // namespace octaphon
