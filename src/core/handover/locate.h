// From a delivered file back to the row that it is of, even where it was renamed, moved or re-tagged.
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "base/job_control.h"
#include "base/result.h"
#include "ledger/made_file.h"

namespace octaphon {

/// By what a file was recognised, the surest first.
enum class FoundBy {
  Bytes,  ///< it is what was delivered, to the bit
  Mark,   ///< it says itself which row it is of
  Sound,  ///< its samples are those that were delivered; of lossless formats
};
std::string_view foundByName(FoundBy by);  ///< in JSON: `bytes`

struct Located {
  FoundBy by = FoundBy::Bytes;
  std::filesystem::path folder;   ///< that it was delivered into
  std::filesystem::path session;  ///< its file; empty where it is not found
  std::string sessionName;        ///< of its file
  std::string brief;              ///< its name, or id where the receipt does not say
  std::string key, file;          ///< of the row; its name when it was delivered
  int edition = 0;                ///< 0: not said
  MadeFile made;                  ///< as far as the receipt says
  bool isAsDelivered = false;     ///< of the same sound and form, as far as that can be told
};

struct LocateRequest {
  std::filesystem::path file;
  /// Folders with receipts that are looked into, beside those that the file lies in.
  std::vector<std::filesystem::path> deliveries = {};
  std::vector<std::filesystem::path> sessions =
      {};  ///< that may be the one; the deliveries' places are tried first
};

/// Also where this user's runs delivered to.
void addKnownDeliveries(LocateRequest& request);

/// Nothing where no receipt knows it. MediumMissing or MediumUnreadable where it cannot be read; Cancelled.
Result<std::optional<Located>> locate(const LocateRequest& request, JobControl* job = nullptr);

}  // namespace octaphon
