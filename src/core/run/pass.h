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

struct PassResult {
  std::vector<FinishedFile> files;
  std::vector<Level> levels;                          ///< of `files`, in their order
  std::vector<std::pair<std::size_t, Error>> failed;  ///< row and reason
};

/// Renders and writes the rows; files are complete but for their name. After a cancel nothing is left of it.
PassResult runPass(const Sheet& sheet, const PassKey& key, const std::vector<PassRow>& rows,
                   const ClipFinder& finder, const ReadableMedia& media, RunControl& control);

}  // namespace octaphon
