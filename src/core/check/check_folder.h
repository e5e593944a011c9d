// A delivery checked as it lies on the disk, from its receipt: now, or later and on another machine.
#pragma once

#include <functional>
#include <map>
#include <memory>
#include <set>
#include <string>
#include <vector>

#include "base/job_control.h"
#include "base/safe_folder.h"
#include "check/file_findings.h"
#include "check/finding.h"
#include "check/read_backs.h"

namespace octaphon {

struct CheckRequest {
  FolderPath base;
  std::set<std::string> briefs = {};  ///< ids; empty: all that the receipt knows
  std::string session = {};  ///< name of the planned session's file: what others deliver is not left over
  /// Ids of its briefs whose plan is known; of the others what the receipt says is right.
  std::set<std::string> plannedBriefs = {};
  std::map<std::string, std::string> planned = {};  ///< of those, by key: names that files should have
  bool expectsAll = true;                           ///< what is planned and was never made is missing
  /// Of those, by id: what is accepted. Of the others it stands in the receipt.
  std::map<std::string, std::vector<Accepted>> accepted = {};
  bool decodes = true;  ///< else only bytes are compared: quick, and less sure
  /// Files that were read a moment ago are not read again. With it, files that have the size and the time
  /// that they were made with are taken as they were made: only what was written since is looked at.
  std::shared_ptr<const ReadBacks> reads = {};
  bool measures = false;  ///< loudness and true peak of all files, asked for or not
  std::size_t wave = 0;   ///< columns of a picture of each file
};

struct CheckReport {
  std::vector<CheckedFile> files;     ///< by name; their lines live as long as `receipt`
  std::vector<FileFinding> findings;  ///< by file, then in the order of the codes
  std::shared_ptr<const Receipt> receipt;
  bool isStopped = false;  ///< before all of it was checked

  std::size_t accepted() const;
  std::size_t open() const { return findings.size() - accepted(); }
};

/// NotFound where there is no receipt: nothing is known of what was delivered. Files are read on all cores. A
/// part of the job is a file.
Result<CheckReport> checkFolder(const CheckRequest& request, JobControl* job = nullptr);

}  // namespace octaphon
