// What stands in the folders a delivery goes to, as a value.
#pragma once

#include <map>
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
  /// By file asked for: one beside it that has the same name but for letter case, composition, or characters
  /// that nobody sees, and was not asked for.
  std::unordered_map<std::string, std::string> alike;
  std::unordered_map<std::string, Measured> measured;  ///< of the receipt, by key
  std::size_t damagedLines = 0;                        ///< of the receipt
  /// What keeps files of a folder from being written, by its path relative to the base; "" is the base.
  std::map<std::string, Error> problems;

  /// Of the folder that a file would lie in.
  const Error* problemOf(const std::string& file) const;
};

/// Nothing is there when the base folder is not. `thorough` reads every file of ours: bits may change while
/// size and time stay.
FolderFacts lookAtFolder(const FolderPath& base, const std::set<std::string>& files, bool thorough = false);

}  // namespace octaphon
