// The seam of a region as it sounds in the session, before any brief asks for it.
#pragma once

#include <atomic>
#include <memory>
#include <optional>

#include "base/result.h"
#include "loop/heard_loop.h"
#include "media/media_cache.h"
#include "media/media_facts.h"
#include "routing/effect_info.h"
#include "run/plugin_passes.h"
#include "session/session.h"

namespace octaphon {

struct RegionSeamQuestion {
  std::shared_ptr<const Session> session;
  std::shared_ptr<const MediaFacts> facts;
  std::shared_ptr<const PluginCatalogue> plugins = {};  ///< null: none are known
  PluginPasses* pluginPasses = nullptr;                 ///< null: plug-ins are silent
  LoopPlace place;                                      ///< in frames of the session
  double searchMs = 0;  ///< to either side; 0: no better places are looked for
};

/// What the mix gives there, joined as it is. NothingLeft where the place has no frames; else errors of media
/// and effects. Any thread; Cancelled once `cancel` is set.
Result<FoundSeam> seamOf(const RegionSeamQuestion& question, MediaCache& cache,
                         const std::atomic<bool>& cancel);

/// How late the first onset around the place's beginning is, in ms; under 0: early. Nothing where nothing
/// begins there. Errors as above.
Result<std::optional<double>> firstOnsetOf(const RegionSeamQuestion& question, MediaCache& cache,
                                           const std::atomic<bool>& cancel);

}  // namespace octaphon
