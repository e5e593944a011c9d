#include "level/levels.h"

#include <algorithm>
#include <cmath>

#include "base/decibels.h"

namespace octaphon {

bool Levels::isSilent() const { return peakDb && *peakDb <= kSilenceDb; }

bool Levels::answers(LevelsAsked asked) const {
  return peakDb && (measured.truePeak || !asked.truePeak) && (measured.loudness || !asked.loudness);
}

Levels Levels::raised(double gainDb) const {
  Levels raised = *this;
  if (isSilent()) return raised;
  for (std::optional<double>* level : {&raised.peakDb, &raised.truePeakDb, &raised.lufs})
    if (*level) *level = std::max(kSilenceDb, **level + gainDb);
  return raised;
}

Levels Levels::rounded() const {
  Levels rounded = *this;
  for (std::optional<double>* level : {&rounded.peakDb, &rounded.truePeakDb, &rounded.lufs, &rounded.rangeLu})
    if (*level) *level = std::round(**level * 100) / 100;
  return rounded;
}

}  // namespace octaphon
