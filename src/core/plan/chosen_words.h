// What a brief prints, and over which spans, in words.
#pragma once

#include <string>

#include "plan/selection_words.h"
#include "session/session.h"

namespace octaphon {

/// `each track in Machines and the mix`
std::string sourcesText(const Brief& brief, const Session& session);
/// `6 regions under Winch`, `9 regions (tagged wet, but not those named *old*) and the whole session`
std::string spansText(const Brief& brief, const Session& session);

/// What lines of a selection are about, with the names of what they pick by hand.
PickedKind regionsKind(const Session& session);
PickedKind clipSetsKind(const Session& session);
PickedKind tracksKind(const Session& session, const char* singular);

}  // namespace octaphon
