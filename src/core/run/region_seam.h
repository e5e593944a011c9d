// The seam of a region as it sounds in the session, before any brief asks for it.
#pragma once

#include <atomic>
#include <memory>

#include "base/result.h"
#include "loop/seam_search.h"
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

struct RegionSeam {
  Lap sound;        ///< the mix, everything heard, from `first` on: the place with what is around it
  Frame first = 0;  ///< of the session
  Seam seam;
  std::vector<LoopCandidate> candidates;  ///< the best first, in frames of the session
};

/// What the mix gives there, joined as it is. NothingLeft where the place has no frames; else errors of media
/// and effects. Any thread; Cancelled once `cancel` is set.
Result<RegionSeam> seamOf(const RegionSeamQuestion& question, MediaCache& cache,
                          const std::atomic<bool>& cancel);

}  // namespace octaphon
