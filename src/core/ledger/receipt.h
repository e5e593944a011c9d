// The receipt: what was delivered into a folder, with fingerprints. A journal of JSON lines in the delivery's
// base folder; each file's line is on the disk before the file gets its name, so that after a crash every
// file is either known or not there. The last line of a key that fits the file on disk counts.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <unordered_map>
#include <vector>

#include "base/files.h"
#include "base/hash.h"
#include "base/result.h"
#include "base/safe_folder.h"

namespace octaphon {

inline constexpr std::string_view kReceiptName = "octaphon-receipt.jsonl";

struct ReceiptLine {
  std::string key;         ///< of the row
  std::string file;        ///< relative to the base folder
  Digest content;          ///< of the file's bytes, as digestOf() gives it with `head`
  Digest fingerprint;      ///< of what the row hears and how it is written
  std::uint64_t head = 0;  ///< bytes that are hashed last
  FileStamp stamp;         ///< of the file when it was written
};

class Receipt {
 public:
  /// An empty one where the folder has none. Lines that cannot be read are counted and left aside.
  static Receipt load(const SafeFolder& folder);
  static Receipt parse(std::string_view text);

  /// All lines about a file of ours, oldest first; empty when the file is not ours.
  const std::vector<ReceiptLine>& linesOf(const std::string& file) const;
  const std::unordered_map<std::string, std::vector<ReceiptLine>>& byFile() const { return byFile_; }
  std::size_t damagedLines() const { return damaged_; }

 private:
  std::unordered_map<std::string, std::vector<ReceiptLine>> byFile_;
  std::size_t damaged_ = 0;
};

/// Appends to a folder's receipt. While it lives no other program can write one there.
class ReceiptJournal {
 public:
  /// Busy where another run is writing into this folder.
  static Result<ReceiptJournal> open(const SafeFolder& folder);

  /// On the disk when it returns, if `sync`.
  Result<> append(const std::vector<ReceiptLine>& lines, bool sync);
  /// Writes the receipt anew with the newest two lines of a file: the last may be of a file that got no name.
  Result<> compact(const SafeFolder& folder);

 private:
  explicit ReceiptJournal(FileHandle handle, std::string place)
      : handle_(std::move(handle)), place_(std::move(place)) {}
  FileHandle handle_;
  std::string place_;
};

}  // namespace octaphon
