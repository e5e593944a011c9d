// The folders that a run writes into: opened, their receipts locked, with room for what comes.
#pragma once

#include <functional>
#include <map>
#include <vector>

#include "base/remark.h"
#include "ledger/receipt_journal.h"
#include "plan/sheet.h"

namespace octaphon {

class Targets {
 public:
  /// Called once for each row of a folder that cannot be used.
  using Refuse = std::function<void(std::size_t row, const Error& error)>;
  explicit Targets(const Sheet& sheet) : sheet_(sheet) {}

  /// Opens the base folder of every row, and makes those that are not there. Takes out the rows that have
  /// none.
  void open(std::vector<std::size_t>& rows, const Refuse& refuse);
  /// Refuses before anything is written what a disk has no room for.
  void checkSpace(std::vector<std::size_t>& rows, const Refuse& refuse) const;

  const SafeFolder& folderOf(std::size_t row) const { return targets_.at(baseOf(row)).folder; }
  ReceiptJournal& journalOf(std::size_t row) { return targets_.at(baseOf(row)).journal; }

  /// When all is written: receipts that have grown are written anew. Gives what happened to them.
  std::vector<Remark> close();

 private:
  struct Target {
    SafeFolder folder;
    ReceiptJournal journal;
  };
  const FolderPath& baseOf(std::size_t row) const { return sheet_.briefOf(sheet_.rows[row]).base; }
  static Result<Target> openOne(const FolderPath& base);
  Result<> beginEditions(const FolderPath& base, Target& target, const std::vector<std::size_t>& rows) const;

  const Sheet& sheet_;
  std::map<FolderPath, Target> targets_;
};

/// Removes what runs that ended badly left in the folders of all rows of a sheet.
void sweepFolders(const Sheet& sheet);

}  // namespace octaphon
