// Gains that are found on the way: which sounds of a set are still to be heard, and who waits for it.
#pragma once

#include <map>
#include <mutex>
#include <set>
#include <vector>

#include "plan/gain_sets.h"
#include "run/pass.h"

namespace octaphon {

/// A row whose gain is known by now, or why it will never be.
struct ReleasedRow {
  WaitingRow row;
  Result<double> gainDb;
};

/// Any thread.
class LevelBook {
 public:
  /// For these rows, which index the sheet.
  LevelBook(const Sheet& sheet, const std::vector<std::size_t>& rows);

  /// First rows of sounds that have to be measured and are not measured where files of theirs are written.
  const std::vector<std::size_t>& heard() const { return heard_; }
  /// What came of a pass. Gives the rows that need not wait any longer.
  std::vector<ReleasedRow> take(std::vector<HeardLevels> levels, std::vector<WaitingRow> waiting);
  /// Those that still wait.
  std::vector<WaitingRow> rest();
  /// Of a sound, as far as it is known by now.
  std::optional<Levels> levelsOf(std::uint32_t sound) const;
  /// What was found for a set in this run; nothing where that was known before, or is not yet.
  std::optional<FoundGain> foundFor(std::uint32_t set) const;

 private:
  struct Waited {
    std::set<std::uint32_t> missing;  // sounds that are not heard yet
    std::optional<Error> error;
    std::optional<FoundGain> found;
    std::vector<WaitingRow> rows;
  };
  bool isKnown(std::uint32_t sound) const;
  void find(std::uint32_t set, Waited& waited) const;

  const Sheet& sheet_;
  std::vector<std::size_t> heard_;
  mutable std::mutex mutex_;
  std::map<std::uint32_t, Levels> levels_;  // by sound
  std::map<std::uint32_t, Waited> sets_;    // by set
};

}  // namespace octaphon
