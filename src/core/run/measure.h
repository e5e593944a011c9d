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

/// What was not heard yet of the rows that are to be made, with `share`, of those it measures: tails that
/// ring out, and levels that gains go by. Keys, as they have them in receipts.
std::vector<std::string> keysToMeasure(const Sheet& sheet, const SignalContext& context, const Share& share);

/// First rows of all sounds that the gain of a row goes by; of its own where it goes by none.
std::vector<std::size_t> rowsOfSet(const Sheet& sheet, const Row& row);

/// Whether a brief's files cannot be shared among processes, for one of its tails was not heard yet.
bool needsMeasuring(const PlannedBrief& brief);

struct MeasureRequest {
  std::shared_ptr<const Session> session;
  std::shared_ptr<const MediaFacts> facts;
  std::shared_ptr<const Sheet> sheet;
  std::shared_ptr<const PluginCatalogue> plugins = {};  ///< null: none are known
  PluginPasses* pluginPasses = nullptr;                 ///< null: plug-ins cannot be heard
  Share share = {};
  int jobs = 0;                        ///< workers; 0: one a core
  std::vector<std::size_t> rows = {};  ///< of which sounds are heard, instead of all that are to be made
  LevelsAsked measures = {};           ///< of each sound, besides what levels take
};

/// Blocks until all is heard or cancelled; by key.
std::vector<Measured> measureSounds(const MeasureRequest& request, MediaCache& cache, RunControl& control);

}  // namespace octaphon
