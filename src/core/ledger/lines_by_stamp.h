// Which line of a receipt an open file fits, whatever its name.
#pragma once

#include <cstdint>
#include <map>
#include <utility>

#include "ledger/receipt.h"

namespace octaphon {

/// The last line of each file; the receipt must live as long.
class LinesByStamp {
 public:
  explicit LinesByStamp(const Receipt& receipt);
  /// Null where none fits. The file is read where its size and time are those of a line: files that were
  /// written at once have one time, and often one size.
  const ReceiptLine* of(int fd) const;

 private:
  std::multimap<std::pair<std::int64_t, std::uint64_t>, const ReceiptLine*> lines_;
};

}  // namespace octaphon
