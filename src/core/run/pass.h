// One pass: all rows that hear the same span in the same way, written from one run of the graph.
#pragma once

#include <vector>

#include "media/readable_media.h"
#include "plan/row_data.h"
#include "run/pass_key.h"
#include "run/pass_tails.h"
#include "run/plugin_passes.h"
#include "run/progress.h"
#include "run/row_output.h"
#include "run/sum_meter.h"

namespace octaphon {

struct PassRow {
  std::size_t row;           ///< index in Sheet::rows
  const SafeFolder* folder;  ///< null: its sound is measured, and no file is written
};

/// The levels of a sound, before any gain.
struct HeardLevels {
  std::uint32_t sound = 0;  ///< index in the sheet
  Result<Levels> levels;
  Digest digest = {};  ///< of all that they depend on
};

/// A row whose sound is there and waits for its gain.
struct WaitingRow {
  std::unique_ptr<RowOutput> output;
  Fingerprint fingerprint;  ///< but for its form
  Frame tail = 0;           ///< frames of the session
  std::vector<ClipStep> steps = {};
  std::optional<double> foldLeftDb = {};
  std::optional<HeardTail> heardTail = {};  ///< of its span, where it was listened for
};

struct PlannedPass {
  PassKey key;
  std::vector<PassRow> rows;
  bool judgesSums = true;    ///< of a pass that was cut in parts, one does
  double cost = 0;           ///< as costsOf() gives it
  bool listensOnly = false;  ///< its tails are measured, and no file is written
};

struct PassResult {
  std::vector<RowResult> rows;  ///< one a row; none after a cancel
  std::vector<SumOutcome> sums;
  std::vector<HeardTail> tails;
  std::vector<HeardLevels> levels;
  std::vector<WaitingRow> waiting;  ///< no result of these is among `rows`
};

/// What all passes of a run have in common.
struct PassSetting {
  const Sheet& sheet;
  const RowData& data;
  const SignalContext& context;
  const ReadableMedia& media;
  RunControl& control;
  PluginPasses* plugins;  ///< may be null: then rows with plug-ins fail
  PassTails::FloorOf floorOf;
  Spool* spool = nullptr;     ///< where sound waits for its gain; null: in memory
  LevelsAsked measures = {};  ///< of each sound, besides what levels take
};

/// Renders and writes the rows; files are complete but for their name. After a cancel nothing is left of it.
/// Any thread; works in parallel on the caller's TBB arena.
PassResult runPass(const PassSetting& setting, const PlannedPass& pass);

}  // namespace octaphon
