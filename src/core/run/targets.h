// The folders that a run writes into: opened, their receipts locked, with room for what comes.
#pragma once

#include <functional>
#include <map>
#include <memory>
#include <vector>

#include "base/remark.h"
#include "ledger/receipt_journal.h"
#include "plan/sheet.h"
#include "session/session.h"

namespace octaphon {

class Targets {
 public:
  /// Called once for each row of a folder that cannot be used.
  using Refuse = std::function<void(std::size_t row, const Error& error)>;
  /// Keeps references.
  Targets(const Session& session, const Sheet& sheet, const Share& share)
      : session_(session), sheet_(sheet), share_(share) {}

  /// Opens the base folder of every row, makes those that are not there, and fixes editions and numbers of
  /// the briefs. Takes out the rows that have none, and those of folders whose receipt says otherwise by now.
  void open(std::vector<std::size_t>& rows, const Refuse& refuse);
  /// Refuses before anything is written what a disk has no room for.
  void checkSpace(std::vector<std::size_t>& rows, const Refuse& refuse) const;

  const SafeFolder& folderOf(std::size_t row) const { return targets_.at(baseOf(row)).folder; }
  ReceiptJournal& journalOf(std::size_t row) const { return *targets_.at(baseOf(row)).journal; }

  /// When all is written: receipts that have grown are written anew. Gives what happened to them.
  std::vector<Remark> close();

 private:
  struct Target {
    SafeFolder folder;
    std::unique_ptr<ReceiptJournal> journal;
  };
  const FolderPath& baseOf(std::size_t row) const { return sheet_.briefOf(sheet_.rows[row]).base; }
  Result<Target> openOne(const FolderPath& base, const std::vector<std::size_t>& rows) const;
  Result<> begin(const PlannedBrief& brief, ReceiptJournal& journal) const;
  DeliveredBrief wordsOf(const PlannedBrief& brief) const;

  const Session& session_;
  const Sheet& sheet_;
  Share share_;
  std::map<FolderPath, Target> targets_;
};

/// Removes what runs that ended badly left in the folders of all rows of a sheet. What they had finished, and
/// told the receipt of, stays for who makes its row.
void sweepFolders(const Sheet& sheet);

}  // namespace octaphon
