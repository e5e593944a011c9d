// Writing a folder's receipt while files are made.
#pragma once

#include <string>
#include <vector>

#include "base/safe_folder.h"
#include "ledger/receipt.h"

namespace octaphon {

/// Appends to a folder's receipt. While it lives no other program can write one there. For one thread at a
/// time: the publisher's, while files are made.
class ReceiptJournal {
 public:
  /// Busy where another run is writing into this folder.
  static Result<ReceiptJournal> open(const SafeFolder& folder);

  /// On the disk when it returns, if `sync`. A receipt that was deleted or replaced meanwhile is written
  /// anew, with all that was in it.
  Result<> append(const std::vector<ReceiptLine>& lines, bool sync,
                  const std::vector<Measured>& measured = {});
  /// Says which edition of a brief the files are of.
  Result<> begin(const Edition& edition);
  /// Writes the receipt anew where that pays and all of it could be read.
  Result<> compact();
  /// Whether it was gone at some time, and is there again.
  bool wasLost() const { return wasLost_; }

 private:
  ReceiptJournal(SafeFolder folder, FileHandle handle, std::string place)
      : folder_(std::move(folder)), handle_(std::move(handle)), place_(std::move(place)) {}
  Result<> restore();

  SafeFolder folder_;
  FileHandle handle_;
  std::string place_;
  bool wasLost_ = false;
};

}  // namespace octaphon
