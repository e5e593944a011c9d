// Date and version of a brief's delivery, fixed at its first run.
#pragma once

#include <string>

#include "base/calendar.h"

namespace octaphon {

struct Edition {
  std::string brief;  ///< id
  int version = 1;
  Date date;
  std::string user, machine;  ///< who made it, and where
  bool operator==(const Edition&) const = default;
};

/// The first edition of a brief, as it would be begun now, by this user on this machine.
Edition editionOfToday();

}  // namespace octaphon
