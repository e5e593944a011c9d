// One pass: all rows that hear the same span in the same way, written from one run of the graph.
#pragma once

#include <functional>
#include <memory>
#include <vector>

#include "base/safe_folder.h"
#include "finish/quantise.h"
#include "plan/heard_clips.h"
#include "plan/sheet.h"
#include "run/progress.h"
#include "run/sum_meter.h"
#include "signal/graph.h"
#include "write/publisher.h"
#include "write/sound_writer.h"

namespace octaphon {

/// What rows must have in common to share a pass.
struct PassKey {
  Frame start = 0;
  Frame length = 0;
  bool finish = false;
  std::string clipSet;  ///< id; empty for a region: everything sounds
  Counting counting;
  auto operator<=>(const PassKey&) const = default;
  PlannedSpan span() const;
};
PassKey passKeyOf(const Sheet& sheet, const Row& row);

struct PassRow {
  std::size_t row;  ///< index in Sheet::rows
  const SafeFolder* folder;
};

struct PlannedPass {
  PassKey key;
  std::vector<PassRow> rows;
  bool judgesSums = true;  ///< of a pass that was cut in parts, one does
};

struct PassResult {
  std::vector<FinishedFile> files;
  std::vector<Level> levels;                          ///< of `files`, in their order
  std::vector<std::pair<std::size_t, Error>> failed;  ///< row and reason
  std::vector<SumOutcome> sums;
};

/// A tap as another process can make it again: what SpanRecipe::tap() or, with several, everything() is asked
/// for.
struct TapRequest {
  const Brief* brief;
  std::vector<PlannedSource> sources;
  bool isEverything = false;
  int channels = 0;  ///< brought to so many (SpanRecipe::asWide); 0: as it is
};

/// Where passes with plug-ins are run.
class PluginPasses {
 public:
  virtual ~PluginPasses() = default;
  virtual Result<std::unique_ptr<TapSource>> open(const SpanRecipe& recipe, const PassKey& key,
                                                  const ReadableMedia& media,
                                                  const std::vector<TapRequest>& taps) = 0;
};

/// Renders and writes the rows; files are complete but for their name. After a cancel nothing is left of it.
/// `plugins` may be null: then rows with plug-ins fail.
PassResult runPass(const Sheet& sheet, const SignalContext& context, const PlannedPass& pass,
                   const ReadableMedia& media, RunControl& control, PluginPasses* plugins);

/// Passes that hear everything with a run-up from the session's start, in order of their starts: one sweep
/// over the session, of which each pass takes the state at its start. `done` gets each result as it comes.
void runSweep(const Sheet& sheet, const SignalContext& context, const std::vector<PlannedPass>& passes,
              const ReadableMedia& media, RunControl& control, PluginPasses* plugins,
              const std::function<void(PassResult)>& done);

}  // namespace octaphon
