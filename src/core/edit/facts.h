// Facts of regions and clip sets.
#pragma once

#include <string>

#include "session/session.h"

namespace octaphon {

/// Sets a fact of a region or clip set; empty: it has none of its own. Locked ones stay.
void setFact(Session& session, const std::string& id, const std::string& fact, const std::string& value);

}  // namespace octaphon
