// Where files begin and end: lead-ins, tails, silence, edges, lengths. A brief says it, and a region or clip
// set may say it otherwise for itself.
#pragma once

#include <array>
#include <optional>

#include "base/choices.h"
#include "base/fade_shape.h"

namespace octaphon {

/// What is kept after the span.
enum class Tail {
  None,
  Fixed,     ///< so many seconds, or bars
  RingsOut,  ///< until nothing is left over a threshold
  AsHeard,   ///< so many seconds, or bars, in which the session goes on
};
constexpr auto choicesOf(Tail) {
  return std::array<Choice<Tail>, 4>{
      {{Tail::None, "none", "no tail", "None", "The file ends with the span"},
       {Tail::Fixed, "fixed", "a tail", "Of one length", "So many seconds or bars of what rings on"},
       {Tail::RingsOut, "rings-out", "tails until they ring out", "Until it rings out",
        "As long as anything is over the threshold, the same for all files of a span"},
       {Tail::AsHeard, "as-heard", "more, as heard", "As heard",
        "So many seconds or bars in which the session goes on: handles for an editor"}}};
}

/// Whether the files of one span line up.
enum class Lengths {
  Own,      ///< sources without clips are left out; silence may be trimmed off each file
  LinedUp,  ///< every source has a file, all begin together and are of one length
};
constexpr auto choicesOf(Lengths) {
  return std::array<Choice<Lengths>, 2>{
      {{Lengths::Own, "own", "each its own", "Each its own", "Sources without clips are left out"},
       {Lengths::LinedUp, "lined-up", "all lined up", "All lined up",
        "Every source has a file; all of a span begin together and are equally long"}}};
}

inline constexpr double kMaxTailSeconds = 3600.0;
inline constexpr double kMaxEndBars = 9999.0;
inline constexpr double kMaxExactSeconds = 86400.0;
inline constexpr double kMaxEdgeMs = 60000.0;
inline constexpr double kLeastThresholdDb = -140.0;
inline constexpr double kMaxHoldMs = 10000.0;

struct Ends {
  Tail tail = Tail::None;
  // Of a tail that is fixed or as heard: one of the two, the other 0.
  double tailSeconds = 0;     ///< 0 … kMaxTailSeconds
  double tailBars = 0;        ///< 0 … kMaxEndBars, from the span's end on
  double thresholdDb = -60;   ///< kLeastThresholdDb … 0, of what rings out
  bool relative = true;       ///< to the peak of the same sound, but never under kLeastRelativeDb; else dBFS
  double holdMs = 500;        ///< 10 … kMaxHoldMs: quiet for so long, it has rung out
  double limitSeconds = 10;   ///< 0 … kMaxTailSeconds: the longest tail that rings out
  double silenceSeconds = 0;  ///< 0 … kMaxTailSeconds, after the tail
  // One of the two, the other 0.
  double leadInSeconds = 0;  ///< 0 … kMaxTailSeconds
  double leadInBars = 0;     ///< 0 … kMaxEndBars, back from the span's start
  double fadeInMs = 0;       ///< 0 … kMaxEdgeMs, from the file's first frame on
  FadeShape fadeInShape = FadeShape::Linear;
  double fadeOutMs = 0;  ///< 0 … kMaxEdgeMs, up to the file's last frame
  FadeShape fadeOutShape = FadeShape::Linear;
  double exactSeconds = 0;  ///< 0 … kMaxExactSeconds: of the whole file; 0: as it comes
  Lengths lengths = Lengths::Own;
  bool pictureFrames = false;    ///< both ends moved out to whole picture frames
  std::optional<double> trimDb;  ///< kLeastThresholdDb … 0 dBFS: quieter sound at head and end goes
  bool operator==(const Ends&) const = default;
};

/// A threshold relative to a peak is never under this, in dBFS.
inline constexpr double kLeastRelativeDb = -90.0;

/// What a region or clip set has otherwise than the brief; nothing: as the brief.
struct OwnEnds {
  std::optional<Tail> tail = {};
  std::optional<double> tailSeconds = {}, tailBars = {};
  std::optional<double> silenceSeconds = {};
  std::optional<double> leadInSeconds = {}, leadInBars = {};
  std::optional<double> fadeInMs = {}, fadeOutMs = {};
  std::optional<double> exactSeconds = {};
  bool operator==(const OwnEnds&) const = default;
};

/// The brief's ends with what a span has of its own. A length of its own takes the place of the brief's in
/// either unit; a tail of its own length is `fixed` where nothing else is said, or as heard where the brief's
/// is.
Ends endsWith(Ends ends, const OwnEnds& own);

}  // namespace octaphon
