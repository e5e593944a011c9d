// The way of a source in words, and remarks about it.
#pragma once

#include <string>

#include "recipe/recipe.h"

namespace octaphon {

/// Where a source is taken off: `through Machines and main`, `before its fader, without returns`.
std::string heardWords(const Session& session, const TrackTree& tree, const Brief& brief,
                       const PlannedSource& source);

/// What overrides change, each with a comma before it: `, faders at unity, pans centred`; empty where
/// nothing.
std::string overrideWords(const Overrides& overrides);

/// What a tap noticed, for its row.
Remark remarkOf(const SignalIssue& issue, const Session& session, const Brief& brief);

}  // namespace octaphon
