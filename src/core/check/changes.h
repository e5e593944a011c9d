// What is otherwise in a delivery than in the one before: an earlier edition, or a folder that was kept.
#pragma once

#include <set>
#include <string>
#include <vector>

#include "base/job_control.h"
#include "check/read_behind.h"

namespace octaphon {

struct ChangesRequest {
  FolderPath base;
  std::set<std::string> briefs = {};  ///< ids; empty: all that the receipt knows
  /// The folder of the earlier delivery, with its receipt; nothing: the edition before, in the same folder.
  std::optional<FolderPath> before = {};
  std::size_t mostHeld = 0;  ///< so many of the earlier files stay open, to be heard
};

struct Changes {
  std::vector<FileChange> changes;  ///< of files that are in both and are not the same, by name
  std::vector<std::string> added;   ///< files of rows that were not there before
  std::vector<std::string> gone;    ///< files of rows that are not there any more
  std::size_t same = 0;             ///< files whose sound and name are the same
  std::vector<Error> problems;      ///< what could not be held against each other
};

/// Rows are known by their keys. NotFound where either has no receipt, or there is no earlier edition. A part
/// of the job is a file.
Result<Changes> changesSince(const ChangesRequest& request, JobControl* job = nullptr);

}  // namespace octaphon
