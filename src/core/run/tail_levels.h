// How loud a row is around its tail, so that one sees whether a threshold was right.
#pragma once

#include <atomic>
#include <memory>
#include <optional>
#include <vector>

#include "media/media_cache.h"
#include "plan/sheet.h"
#include "run/plugin_passes.h"

namespace octaphon {

struct TailLevels {
  int rate = 48000;           ///< Hz, the session's
  std::size_t bodyCells = 0;  ///< cells before the span's end
  std::vector<float>
      cells;  ///< largest magnitude of each 10 ms, behind the DC block, the last of the body first
  double thresholdDb = 0;    ///< that the tail is held against, in dBFS
  Frame heard = 0;           ///< frames of the tail that are there
  std::optional<Frame> end;  ///< frames after which this sound alone is quiet; nothing: its limit came first
};

struct TailQuestion {
  std::shared_ptr<const Session> session;
  std::shared_ptr<const MediaFacts> facts;
  std::shared_ptr<const Sheet> sheet;
  std::shared_ptr<const PluginCatalogue> plugins = {};  ///< null: none are known
  PluginPasses* pluginPasses = nullptr;                 ///< null: plug-ins are silent
  std::size_t row = 0;                                  ///< index in the sheet
};

/// Plays the row's sound until it has rung out, or to the limit that the brief sets, whatever tail it asks
/// for. Any thread; Cancelled once `cancel` is set.
Result<TailLevels> levelsOfTail(const TailQuestion& question, MediaCache& cache,
                                const std::atomic<bool>& cancel);

}  // namespace octaphon
