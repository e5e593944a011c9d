// What is locked stays as it is, whatever an edit does.
#pragma once

#include "session/session.h"

namespace octaphon {

/// Puts back what `after` changed of clips, tracks, regions, clip sets and markers that are locked in
/// `before`: every field but the lock, a track's place and its list of clips; a clip is locked by its track
/// too. Things that are gone stay gone, with what led to them. Gives how many things were put back.
std::size_t keepLocked(const Session& before, Session& after);

}  // namespace octaphon
