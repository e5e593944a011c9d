// A stretch of time that sound is taken over, and what it says of its own.
#pragma once

#include <compare>
#include <optional>
#include <string>
#include <string_view>
#include <utility>

#include "base/frames.h"
#include "brief/loop.h"

namespace octaphon {

/// How a span is played where its files are loops.
struct SpanLoop {
  LoopWay way = LoopWay::None;
  int laps = 1;             ///< of an inner lap, that are played one behind the other
  bool keepsIntro = false;  ///< of an inner lap: all that was played before it
  auto operator<=>(const SpanLoop&) const = default;
  /// It starts from silence; what begins in it plays in full, what began before only its part inside.
  bool isLapAlone() const { return way == LoopWay::Fold || way == LoopWay::InnerLap; }
  /// What sounds in the session around it belongs to it.
  bool isFromRecording() const { return way == LoopWay::Blend || way == LoopWay::Plain; }
};

struct PlannedSpan {
  enum class Kind {
    Region,
    ClipSet,
    Session,  ///< all of it
    Markers,  ///< from a marker to the next of its set
    Extent,   ///< of one source, for it alone
    Clip,     ///< which sounds alone
    Range,    ///< set in the brief
  };
  Kind kind = Kind::Region;
  std::string
      id;  ///< of the region, clip set, first marker, clip; of an extent PlannedSource::key() of its source
  std::string name;
  Frame start = 0;       ///< of the body
  Frame length = 0;      ///< of the body
  Frame leadIn = 0;      ///< frames kept before the body
  Frame tail = 0;        ///< frames after the body; of one that rings out the most
  bool finish = false;   ///< clips may run on in the tail, under BeginsHere
  bool asHeard = false;  ///< the session goes on in the tail
  bool ringsOut = false;
  Frame context = 0;  ///< frames heard beyond both ends, under EverythingHeard: a converted rate needs them
  SpanLoop loop = {};
  int channels = 0;                               ///< of its files; 0: as tapped
  Frame first() const { return start - leadIn; }  ///< may be before the session
  Frame end() const { return start + length; }
  /// That are played for its files, laps included; the most there can be.
  Frame heardFrames() const { return leadIn + length * loop.laps + tail; }
  Frame last() const { return end() + tail; }  ///< one after the last frame kept

  /// Only its own clips sound in it.
  bool isFiltered() const { return kind == Kind::ClipSet || kind == Kind::Clip; }
  /// In keys of rows: `region:r1`, `session`.
  std::string key() const;

  /// A stretch of time that is neither named nor kept.
  static PlannedSpan stretch(Frame start, Frame length) {
    PlannedSpan span;
    span.start = start;
    span.length = length;
    return span;
  }
};

/// A span of the kind and id that a key() names; nothing where it is none.
std::optional<std::pair<PlannedSpan::Kind, std::string>> parseSpanKey(std::string_view key);

}  // namespace octaphon
