// Many passes that are run up to from the session's start, in one go.
#pragma once

#include <functional>

#include "run/pass.h"

namespace octaphon {

/// Passes that hear everything with a run-up from the session's start: one sweep
/// over the session, of which each pass takes the state at its start. `done` gets each result as it comes, on
/// the caller's thread.
void runSweep(const PassSetting& setting, std::vector<PlannedPass> passes,
              const std::function<void(PassResult)>& done);

}  // namespace octaphon
