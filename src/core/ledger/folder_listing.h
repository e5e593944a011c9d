// What stands in the folders a delivery goes to, as a value.
#pragma once

#include <map>
#include <memory>
#include <set>
#include <string>
#include <unordered_map>
#include <vector>

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
  const ReceiptLine* line =
      nullptr;  ///< of the receipt: the line that fits; where it was changed the last one
};

/// What is there of the files asked for and of those that the receipt knows, by path relative to the base
/// folder. Each folder is listed once; a file is read only when its size or time differ from what its receipt
/// says.
struct FolderFacts {
  std::shared_ptr<const Receipt> receipt = std::make_shared<Receipt>();
  std::unordered_map<std::string, FoundFile> files;
  /// Files of ours by the key of their row, the one that was made last first. A file that is whole and waits
  /// for its name, for its run was ended, is among them under its temporary one.
  std::unordered_map<std::string, std::vector<std::string>> byKey;
  /// Neither asked for nor in the receipt, sorted; a folder with `/` at its end, where it holds too much to
  /// name it all. What has a receipt of its own is another delivery, and none of this.
  std::vector<std::string> foreign;
  /// By file asked for: one beside it that has the same name but for letter case, composition, or characters
  /// that nobody sees, and was not asked for.
  std::unordered_map<std::string, std::string> alike;
  std::unordered_map<std::string, Measured> measured;  ///< of the receipt, by key
  /// What keeps files of a folder from being written, by its path relative to the base; "" is the base.
  std::map<std::string, Error> problems;

  /// Of the folder that a file would lie in.
  const Error* problemOf(const std::string& file) const;
  /// Null where it is not there.
  const FoundFile* find(const std::string& file) const;
};

/// Of a base folder; an empty one where there is none.
std::shared_ptr<const Receipt> receiptIn(const FolderPath& base);

/// Nothing is there when the base folder is not. `receipt`: the folder's, where it was read already.
/// `thorough` reads every file of ours: bits may change while
/// size and time stay.
FolderFacts lookAtFolder(const FolderPath& base, const std::set<std::string>& files,
                         std::shared_ptr<const Receipt> receipt = nullptr, bool thorough = false);

}  // namespace octaphon
