// Makes files: groups rows into passes, prepares media, runs the passes in parallel and publishes what they
// wrote.
#pragma once

#include <functional>
#include <memory>
#include <optional>
#include <vector>

#include "base/remark.h"
#include "base/result.h"
#include "ledger/receipt_journal.h"
#include "media/media_cache.h"
#include "media/media_facts.h"
#include "plan/sheet.h"
#include "run/pass.h"
#include "run/progress.h"
#include "session/session.h"

namespace octaphon {

struct RunRequest {
  std::shared_ptr<const Session> session;  ///< a snapshot; edits meanwhile do not matter
  std::shared_ptr<const MediaFacts> facts;
  std::shared_ptr<const Sheet> sheet;
  std::shared_ptr<const PluginCatalogue> plugins = {};  ///< null: none are known
  PluginPasses* pluginPasses = nullptr;                 ///< null: rows with plug-ins fail
  /// Indices in the sheet; a row that is not ToMake replaces its file. Those whose file comes from another
  /// one of ours are not rendered.
  std::vector<std::size_t> rows;
  bool again = false;                   ///< all are rendered
  Share share = {};                     ///< of a run that several processes share
  std::vector<Measured> measured = {};  ///< that the plan took for known, besides what the receipts know
  int jobs = 0;                         ///< workers; 0: one a core
  std::size_t spoolBytes = std::size_t{512} << 20;  ///< memory for sound that waits for its level
  LevelsAsked measures = {};  ///< of each sound that is rendered, besides what levels take
  bool sync = true;           ///< what is reported is on the disk
  /// So many files that were replaced are given to the report, as long as they are open; of others it hears
  /// nothing.
  std::size_t mostReplaced = 0;
};

enum class Deed {
  Rendered,
  Renamed,    ///< its file has another name, nothing was rendered
  Rewritten,  ///< what it says of itself alone was written anew
  Adopted,    ///< a run that was ended had made it, and it only got its name
};

struct RowOutcome {
  std::size_t row = 0;
  Result<> result;
  Deed deed = Deed::Rendered;
  bool concernsFolder = false;  ///< it failed for what is wrong with its base folder, as all files there do
  Level level = {};             ///< before rounding
  Extent extent = {};           ///< of the file
  Frame start = 0;              ///< its first frame, in frames of the session
  SoundFacts facts = {};        ///< how its sound ended
  std::vector<ClipStep> steps = {};           ///< of clips that are heard in it
  std::optional<Seam> seam = {};              ///< of a loop
  double gainDb = 0;                          ///< that its level has
  Levels levels = {};                         ///< of the file, as far as they are known
  std::optional<FoundGain> foundGain = {};    ///< of its set, where that was found in this run
  RungOut rungOut = {};                       ///< of a tail that rings out; not known where it does not
  std::shared_ptr<FileHandle> replaced = {};  ///< the file that had its name, open; null: none
};

/// What was found while the row was made, with its cure: sound over full scale, cut off at a limit or by an
/// exact length, clips that begin or end with a step, an offset.
std::vector<Remark> remarksOf(const Session& session, const Sheet& sheet, const RowOutcome& outcome);

struct RunSummary {
  std::size_t written = 0;  ///< rendered, or adopted
  std::size_t renamed = 0, rewritten = 0;
  std::size_t failed = 0;
  bool cancelled = false;
  double seconds = 0;                ///< wall clock
  double soundSeconds = 0;           ///< of all files written
  std::vector<Remark> remarks = {};  ///< about the run as a whole
  double realtime() const { return seconds > 0 ? soundSeconds / seconds : 0; }
};

/// Rows the main button makes, in the order of the sheet; with `foreign`, also those whose file was changed
/// by someone else or is not ours. Of a brief that stops, none.
std::vector<std::size_t> rowsToMake(const Sheet& sheet, bool foreign);
/// Rows that making everything again would write.
std::vector<std::size_t> rowsToMakeAgain(const Sheet& sheet);

/// Blocks until all is done or cancelled. `report` is called once a row, one call at a time, from other
/// threads; a row that was cancelled is not reported. Nothing is thrown; what goes wrong fails its rows.
/// `sums`, if there, is called the same way, once for each brief and span of which anything was made.
RunSummary makeFiles(const RunRequest& request, MediaCache& cache, RunControl& control,
                     const std::function<void(const RowOutcome&)>& report,
                     const std::function<void(const SumOutcome&)>& sums = {});

}  // namespace octaphon
