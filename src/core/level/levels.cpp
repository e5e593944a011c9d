#include "level/levels.h"

#include <algorithm>

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

}  // namespace octaphon
