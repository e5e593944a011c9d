// What a delivery keeps of the session it came from: enough to line its files up again, and nothing that
// sounds.
#pragma once

#include <string>

#include "session/session.h"

namespace octaphon {

/// Tracks and groups with names, order and colours, regions, markers, tempo, clock. Without clips, media,
/// effects, curves, briefs and notes.
Session outlineOf(const Session& session);
/// The same as text of a session file, without line breaks.
std::string outlineText(const Session& session);

}  // namespace octaphon
