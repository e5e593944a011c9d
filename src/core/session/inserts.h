// What a sound goes through on its way: effects, sends, and curves over time, as a session keeps them.
#pragma once

#include <array>
#include <map>
#include <string>
#include <string_view>
#include <vector>

#include "base/choices.h"
#include "base/frames.h"

namespace octaphon {

inline constexpr std::string_view kTagSound = "sound";  ///< belongs to the sound itself
inline constexpr std::string_view kTagMix = "mix";      ///< belongs to the mix it stands in
inline constexpr std::size_t kMaxInserts = 64;          ///< in one place
inline constexpr double kMaxParameter = 1e9;            ///< magnitude of any parameter

/// One effect in a chain. Ids are given once in a session.
struct Insert {
  std::string id;
  std::string effect;                    ///< a built-in effect, or the URI of an LV2 plug-in
  std::string name;                      ///< for people; empty: the effect's own
  bool on = true;                        ///< off: the sound passes as it is
  std::vector<std::string> tags;         ///< kTagSound, kTagMix, or others
  std::map<std::string, double> values;  ///< of parameters, where they are not the default
  std::string state;                     ///< of a plug-in, as Turtle; empty: none
  std::string unknownKeys;
  bool operator==(const Insert&) const = default;
};

/// A copy of the sound to a return, or to the key input of an insert.
struct Send {
  std::string id;
  std::string to;  ///< id of a return or of an insert
  double gainDb = 0;
  bool preFader = false;  ///< leaves before fader and pan
  bool on = true;
  std::string unknownKeys;
  bool operator==(const Send&) const = default;
};

/// How a curve runs from a point to the next.
enum class Segment {
  Linear,
  Curve,  ///< t^(4^bend), t from 0 to 1: bend over 0 starts slowly, under 0 fast
  Hold,   ///< keeps the value up to the next point
};
constexpr auto choicesOf(Segment) {
  return std::array<Choice<Segment>, 3>{
      {{Segment::Linear, "linear"}, {Segment::Curve, "curve"}, {Segment::Hold, "hold"}}};
}

struct CurvePoint {
  Frame at = 0;
  double value = 0;
  Segment segment = Segment::Linear;
  double bend = 0;  ///< −1 … 1, of Segment::Curve
  std::string unknownKeys;
  bool operator==(const CurvePoint&) const = default;
};

/// One value over session time. Before the first point it has the first value, behind the last the last.
struct Automation {
  std::string
      target;  ///< `gain` (dB), `pan`, `mute` (0 or 1), `send:ID` (dB), `insert:ID:PARAMETER` (its unit)
  bool on = true;
  std::vector<CurvePoint> points;  ///< at least one, in order of time
  std::string unknownKeys;
  bool operator==(const Automation&) const = default;
};

/// What a curve does between two of its points, before its first or after its last.
class CurvePiece {
 public:
  /// The piece that holds a frame; the curve needs a point, and must outlive this.
  CurvePiece(const Automation& curve, Frame frame);
  double at(Frame frame) const;  ///< of a frame of the piece
  Frame end() const { return next_ != nullptr ? next_->at : kMaxFrame; }
  /// Its point, where a jump may have gone before; null before the first.
  const CurvePoint* point() const { return from_; }

 private:
  const CurvePoint *from_, *next_;  // null where there is none
  double power_ = 1;                // of how far it is through the piece
};

/// The value at a frame; needs a point.
inline double valueAt(const Automation& curve, Frame frame) { return CurvePiece(curve, frame).at(frame); }

}  // namespace octaphon
