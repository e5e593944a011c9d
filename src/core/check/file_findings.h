// What is wrong with one file, against what it was when it was made.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "check/finding.h"
#include "check/read_back.h"
#include "ledger/made_file.h"
#include "ledger/receipt.h"

namespace octaphon {

/// A file that was delivered, and what lies there by now.
struct CheckedFile {
  std::string name;  ///< relative to the base folder
  const ReceiptLine* line = nullptr;
  std::optional<MadeFile> made;               ///< nothing where the receipt does not say
  std::optional<Result<ReadBack>> read = {};  ///< nothing: there is no such file
  bool isDecoded = true;                      ///< else only its bytes were looked at
  bool isTrusted = false;  ///< not read: it has the size and the time that it had when it was made

  const ReadBack* there() const { return read && *read ? &**read : nullptr; }
  bool isSameBytes() const {
    return there() != nullptr && !line->content.empty() && there()->content == line->content;
  }
  /// Whether it sounds as it was made, as far as that can be said.
  bool soundsAsMade() const;
};

/// Samples in a row at full scale that are taken for clipping (common practice, no source).
inline constexpr Frame kClippedRun = 3;
/// In the order of the codes; empty: it is as it was made.
std::vector<FileFinding> findingsOf(const CheckedFile& file);

/// What would make a file that has a name be taken for one that was delivered under another: the same bytes,
/// or where those are not known the same sound and form.
bool isHeldBy(const CheckedFile& delivered, const ReadBack& there);

}  // namespace octaphon
