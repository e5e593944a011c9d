// What must hold beyond the kinds and ranges of single fields: between the fields of one thing, and between
// the things of a session.
#pragma once

#include <optional>
#include <string>

#include "session/session.h"

namespace octaphon {

struct Mistake {
  std::string key;  ///< of a field; of a session the whole place: `tracks[3].clips[2].medium`
  std::string text;
  std::string cure = {};
};

/// Between the fields of one thing; nothing where all is well.
std::optional<Mistake> mistakeIn(const Medium& medium);
std::optional<Mistake> mistakeIn(const Automation& curve);
std::optional<Mistake> mistakeIn(const Clip& clip);
std::optional<Mistake> mistakeIn(const Track& track);
std::optional<Mistake> mistakeIn(const Region& region);
std::optional<Mistake> mistakeIn(const ClipSet& set);
std::optional<Mistake> mistakeIn(const TimeSpan& span);
std::optional<Mistake> mistakeIn(const Pick& pick);

/// Between a thing and the one before it in its list (null: it is the first).
std::optional<Mistake> mistakeAfter(const TempoPoint* before, const TempoPoint& point);
std::optional<Mistake> mistakeAfter(const CurvePoint* before, const CurvePoint& point);

/// Ids are given once; what is named is there; no group is inside itself.
std::optional<Mistake> mistakeIn(const Session& session);

}  // namespace octaphon
