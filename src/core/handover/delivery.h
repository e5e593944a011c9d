// What was delivered into a folder, as its receipt and its files say: what notes, lists and manifests are
// made of. Needs no session.
#pragma once

#include <memory>
#include <optional>
#include <set>
#include <string>
#include <utility>
#include <vector>

#include "base/job_control.h"
#include "base/safe_folder.h"
#include "check/check_folder.h"
#include "check/wave_meter.h"
#include "ledger/delivered_brief.h"
#include "ledger/edition.h"
#include "ledger/made_file.h"
#include "level/levels.h"

namespace octaphon {

/// Columns of the picture of a file.
inline constexpr std::size_t kNotePoints = 120;

struct DeliveryRequest {
  FolderPath base;
  std::set<std::string> briefs = {};  ///< ids; empty: all that the receipt knows
  bool checksums = false;
  bool pictures = false;
};

/// A warning of when it was made, and why it does not count, where somebody said so.
struct DeliveredRemark {
  MadeRemark remark;
  std::optional<std::string> accepted = {};
};

struct DeliveredFile {
  std::string file;       ///< relative to the base folder
  std::string key;        ///< of its row
  std::size_t brief = 0;  ///< index in Delivery::briefs
  bool isThere = false;   ///< and can be read; else levels, size and checksum say nothing
  MadeFile made;          ///< where the receipt does not say, as far as the file tells
  Frame frames = 0;       ///< of the file as it lies there, else as it was made
  Levels levels;          ///< of the file as it decodes
  double gainDb = 0;      ///< that its level has
  std::uint64_t bytes = 0;
  std::string sha256 = {};               ///< 64 hexadecimal digits; empty: not asked for
  std::vector<WaveColumn> picture = {};  ///< roots of samples: quiet sounds have a shape too
  std::vector<DeliveredRemark> remarks = {};
  std::vector<FileFinding> findings = {};

  std::string spanKey() const;    ///< `region:r1`
  std::string sourceKey() const;  ///< `track:t1`
  /// `wav` and `all`, or the channel that it holds: files that differ in these alone are of one sound.
  std::pair<std::string, std::string> formAndChannel() const;
  double seconds() const;
};

struct DeliveredEdition {
  DeliveredBrief words;            ///< with no more than its id where the receipt is of an earlier version
  std::optional<Edition> edition;  ///< the newest
  std::vector<Accepted> accepted;
};

struct Delivery {
  FolderPath base;
  std::vector<DeliveredEdition> briefs;     ///< those of which files are there, in the order of their session
  std::vector<DeliveredFile> files;         ///< by brief, then spans by start and longer first, then source
  std::vector<FileFinding> strangers = {};  ///< findings about what is none of its files
  std::shared_ptr<const Receipt> receipt = {};

  std::size_t findings() const;  ///< that were not accepted
  std::size_t accepted() const;  ///< findings that were
  double seconds() const;
  std::uint64_t bytes() const;
  /// Names of the session files that they come from, each once.
  std::vector<std::string> sessions() const;
};

/// Files are checked on the way, and measured: peak, true peak, loudness. NotFound where there is no receipt;
/// Cancelled. A part of the job is a file, read once or more.
Result<Delivery> readDelivery(const DeliveryRequest& request, JobControl* job = nullptr);

}  // namespace octaphon
