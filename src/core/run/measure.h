// What has to be known of sounds before any of their files is made: how long tails ring. Heard without making
// a file.
#pragma once

#include <functional>
#include <memory>
#include <vector>

#include "ledger/receipt.h"
#include "media/media_cache.h"
#include "run/pass_plan.h"
#include "session/session.h"

namespace octaphon {

/// A row of each span whose tail rings out and was not heard yet; with `share`, of those it measures.
std::vector<std::size_t> rowsToMeasure(const Sheet& sheet, const SignalContext& context, const Share& share);

/// Whether a brief's files cannot be shared among processes, for one of its tails was not heard yet.
bool needsMeasuring(const PlannedBrief& brief);

struct MeasureRequest {
  std::shared_ptr<const Session> session;
  std::shared_ptr<const MediaFacts> facts;
  std::shared_ptr<const Sheet> sheet;
  std::shared_ptr<const PluginCatalogue> plugins = {};  ///< null: none are known
  PluginPasses* pluginPasses = nullptr;                 ///< null: plug-ins cannot be heard
  Share share = {};
  int jobs = 0;  ///< workers; 0: one a core
};

/// Blocks until all is heard or cancelled; by key of the span.
std::vector<Measured> measureTails(const MeasureRequest& request, MediaCache& cache, RunControl& control);

}  // namespace octaphon
