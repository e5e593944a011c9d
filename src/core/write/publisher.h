// Gives finished files their names. One thread for a run: files to the disk, their lines in the receipt,
// names, folders.
#pragma once

#include <condition_variable>
#include <functional>
#include <map>
#include <mutex>
#include <queue>
#include <thread>
#include <vector>

#include "base/safe_folder.h"
#include "ledger/receipt_journal.h"

namespace octaphon {

/// A file that is written and closed, and only lacks its name.
struct FinishedFile {
  std::size_t row = 0;  ///< for the report
  PendingFile file;
  ReceiptLine line;
  bool replace = false;                       ///< whether a file that has the name may be replaced
  bool holdsReplaced = false;                 ///< the report is given the file that had its name
  std::shared_ptr<FileHandle> replaced = {};  ///< null: none, or it is not wanted
};

class Publisher {
 public:
  /// Called from the publisher's thread for every file. `replaced`: the file that had its name, still open,
  /// where that is wanted; else null.
  using Report = std::function<void(std::size_t row, const Result<>& outcome,
                                    const std::shared_ptr<FileHandle>& replaced)>;

  /// With `sync`, what has a name is on the disk. Without, a power cut can lose files that were reported.
  /// `mostWaiting` files wait with open handles at most.
  Publisher(bool sync, std::size_t mostWaiting, Report report);
  ~Publisher();

  /// Files of one pass and one base folder, whose receipt is `journal`, and what was heard of them. Waits
  /// only while too many files wait already.
  void publish(ReceiptJournal& journal, std::vector<FinishedFile> files, std::vector<Measured> measured = {});
  /// Waits until everything is done.
  void finish();

 private:
  struct Batch {
    ReceiptJournal* journal;
    std::vector<FinishedFile> files;
    std::vector<Measured> measured;
  };
  void work();
  void publishBatch(Batch& batch);

  bool sync_;
  Report report_;
  std::size_t mostWaiting_;
  std::size_t waiting_ = 0;  // files in batches that are not done
  std::mutex mutex_;
  std::condition_variable wake_;
  std::condition_variable room_;
  std::queue<Batch> batches_;
  bool ending_ = false;
  std::thread thread_;
};

}  // namespace octaphon
