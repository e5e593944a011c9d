// Writing a folder's receipt while files are made.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/safe_folder.h"
#include "ledger/receipt.h"

namespace octaphon {

/// One of several processes that share a delivery.
struct Share {
  int index = 1;  ///< from 1
  int of = 1;
  bool isAll() const { return of == 1; }
};

/// Appends to a folder's receipt. While it lives no other program can write one there, but for the other
/// shares of a run: each of them has a journal of its own. For one thread at a time: the publisher's, while
/// files are made.
class ReceiptJournal {
 public:
  /// Busy where another run is writing into this folder. Journals that shares left are joined into the
  /// receipt, unless this is for a share itself.
  static Result<ReceiptJournal> open(const SafeFolder& folder, const Share& share = {});

  /// What stands in it, and in the journals of other shares when it was opened.
  const Receipt& receipt() const { return known_; }

  /// On the disk when it returns, if `sync`. What stands there already is not written twice. A receipt that
  /// was deleted or replaced meanwhile is written anew, with all that was in it.
  Result<> append(const std::vector<ReceiptLine>& lines, bool sync,
                  const std::vector<Measured>& measured = {});
  /// Says which edition of a brief the files are of; for all shares.
  Result<> begin(const Edition& edition);
  /// Says which numbers stick; those that are there stay, unless all are counted anew. For all shares.
  Result<> begin(const std::string& brief, const StickyNumbers& numbers, bool anew);
  /// Says what is accepted of a brief, where that is another thing than before; for all shares.
  Result<> begin(const std::string& brief, const std::vector<Accepted>& accepted);
  /// Says of a brief what its files do not, where that is another thing than before; for all shares.
  Result<> begin(const DeliveredBrief& brief);
  /// The same of the session that is delivered, `outline` as outlineText() gives it.
  Result<> beginOutline(const std::string& session, const std::string& outline);
  /// Says that a note or list is ours; before it gets its name.
  Result<> noteList(const HandedList& list, bool sync);
  /// Says that a file of ours was taken away on purpose.
  Result<> noteRemoved(const std::string& file) { return write(handle_, Receipt::removed(file)); }
  /// All is said that is for all shares: others may begin.
  void settle();
  /// Writes the receipt anew where that pays and all of it could be read; of a share, nothing.
  Result<> compact();
  /// Whether it was gone at some time, and is there again.
  bool wasLost() const { return wasLost_; }

 private:
  ReceiptJournal(SafeFolder folder, std::string name);
  static Result<ReceiptJournal> openAs(const SafeFolder& folder, const std::string& name, bool waits);
  Result<> lock(bool waits);
  Result<> endTornLine();
  Result<> takeShares();
  Result<> restore();
  Result<> write(const FileHandle& to, const std::string& text);

  SafeFolder folder_;
  std::string name_, place_;
  FileHandle handle_;
  FileHandle shared_;  // the receipt that shares have in common, until it is settled
  Receipt known_;
  bool wasLost_ = false;
};

}  // namespace octaphon
