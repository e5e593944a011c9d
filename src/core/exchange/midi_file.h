// Tempo, metre and markers from Standard MIDI Files (MIDI 1.0, "Standard MIDI Files 1.0"): formats 0 and 1,
// ticks by quarter notes or by SMPTE frames. Notes are passed over.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "base/result.h"
#include "base/tempo_map.h"

namespace octaphon {

struct MidiMark {
  Frame at = 0;  ///< at the rate asked for, rounded once from the exact time
  std::string name;
  bool operator==(const MidiMark&) const = default;
};

struct MidiMap {
  std::vector<TempoPoint>
      tempo;  ///< begins at 0; 120 BPM and 4/4 until the file says otherwise. Empty for SMPTE ticks
  std::vector<MidiMark> markers;  ///< markers (FF 06) and cue points (FF 07) of all tracks, by place
};

inline constexpr std::uint64_t kMaxMidiBytes = 64 << 20;

/// Syntax with the byte where the file is wrong; Unsupported for format 2; BadValue for a tempo outside 1 to
/// 1000 BPM.
Result<MidiMap> readMidi(std::string_view bytes, int rate, const std::string& place);

}  // namespace octaphon
