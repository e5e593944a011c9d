// What a session knows of its media.
#pragma once

#include "media/media_facts.h"
#include "session/session.h"

namespace octaphon {

/// From now on the session knows the medium as it is. False where there is nothing to do: it is not there,
/// cannot be read, or is what it was.
bool takeAsItIs(Session& session, const std::string& medium, const MediumFact& fact);

}  // namespace octaphon
