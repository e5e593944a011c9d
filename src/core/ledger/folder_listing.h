// What stands in the folders a delivery goes to, as a value.
#pragma once

#include <set>
#include <string>
#include <unordered_map>

#include "base/safe_folder.h"
#include "ledger/receipt.h"

namespace octaphon {

enum class FileVerdict {
  Ours,     ///< in the receipt, and its bytes are those that were written
  Changed,  ///< in the receipt, with other bytes
  Foreign,  ///< not in the receipt, or no file at all (a folder, a link)
};

struct FoundFile {
  FileVerdict verdict = FileVerdict::Foreign;
  ReceiptLine line;  ///< where it is ours: the line that fits
};

/// The files asked for that are there, by path relative to the base folder. Each folder is listed once; a
/// file is read only when its size or time differ from what its receipt says.
struct FolderFacts {
  std::unordered_map<std::string, FoundFile> files;
  std::size_t damagedLines = 0;  ///< of the receipt
};

/// Nothing is there when the base folder is not.
FolderFacts lookAtFolder(const std::filesystem::path& base, const std::set<std::string>& files);

}  // namespace octaphon
