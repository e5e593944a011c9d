// Date and version of a brief's delivery, fixed at its first run.
#pragma once

#include <map>
#include <string>

#include "base/calendar.h"
#include "base/safe_folder.h"

namespace octaphon {

struct Edition {
  std::string brief;  ///< id
  int version = 1;
  Date date;
  std::string user, machine;  ///< who made it, and where
  bool operator==(const Edition&) const = default;
};

/// The first edition of a brief that would be begun now, by this user on this machine.
Edition firstEdition();

/// The newest edition of each brief, by its id, as the receipt of a base folder has them; none where there is
/// no receipt that can be read.
std::map<std::string, Edition> editionsIn(const SafeFolder& folder);
std::map<std::string, Edition> editionsIn(const FolderPath& base);

}  // namespace octaphon
