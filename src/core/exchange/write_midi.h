// Tempo, metre, regions and markers as a Standard MIDI File (MIDI 1.0, "Standard MIDI Files 1.0"), format 0.
#pragma once

#include <string>

#include "session/session.h"

namespace octaphon {

inline constexpr int kMidiTicks = 9600;  ///< a quarter note: places are right to 0.05 ms at 120 BPM

/// Markers (FF 06) of all sets, the beginnings of regions, and their ends as `NAME (end)`; tempo and metre
/// where the session has any, else 120 BPM. Places go by the tempo as it is written, in whole microseconds a
/// quarter: they do not drift.
std::string midiOf(const Session& session);

}  // namespace octaphon
