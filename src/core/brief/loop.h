// Files that are played over and over: which way their end meets their beginning. A brief says it, and a
// region or clip set may say it otherwise for itself.
#pragma once

#include <array>
#include <optional>
#include <string>

#include "base/choices.h"
#include "base/frames.h"

namespace octaphon {

enum class LoopWay {
  None,
  Fold,      ///< the whole tail is folded onto the beginning
  InnerLap,  ///< several laps are played, and one that has others around it is kept
  Overlap,   ///< lead-in, body and tail in one file; the next one begins a body's length after it
  Blend,     ///< the end is crossfaded with what comes before the beginning
  Plain,     ///< joined as it is, at the best places nearby
};
constexpr auto choicesOf(LoopWay) {
  return std::array<Choice<LoopWay>, 6>{
      {{LoopWay::None, "none", "no loops", "None", "Files are played once"},
       {LoopWay::Fold, "fold", "as loops, tails folded onto the start", "Fold",
        "What rings on after the end is folded onto the beginning: for whatever adds up"},
       {LoopWay::InnerLap, "inner-lap", "as loops, an inner lap", "Inner lap",
        "Several laps are played and one is kept: right for dynamics and for what moves, too"},
       {LoopWay::Overlap, "overlap", "as loops that overlap", "Overlap",
        "Lead-in, body and tail in one file, for players that start the next one before it has ended"},
       {LoopWay::Blend, "blend", "as loops, end and start blended", "Blend",
        "The end is crossfaded with what comes before the start: for recordings"},
       {LoopWay::Plain, "plain", "as loops, plainly joined", "Plain join",
        "As it is, joined at the best pair of places nearby"}}};
}

/// How the gains of a blend run.
enum class BlendLaw {
  ByLikeness,  ///< equal gain where both sounds are alike, else equal power
  EqualGain,
  EqualPower,
};
constexpr auto choicesOf(BlendLaw) {
  return std::array<Choice<BlendLaw>, 3>{
      {{BlendLaw::ByLikeness, "by-likeness", "gains by likeness", "By likeness",
        "Equal gain where both sounds are alike, else equal power"},
       {BlendLaw::EqualGain, "equal-gain", "equal gain", "Equal gain", "For tones that go on"},
       {BlendLaw::EqualPower, "equal-power", "equal power", "Equal power", "For noise and weather"}}};
}

/// Bodies of variations of one loop: spans whose names differ in their number alone.
enum class LoopEqual {
  Longest,  ///< all as long as the longest
  Refused,  ///< unequal ones are not made
};
constexpr auto choicesOf(LoopEqual) {
  return std::array<Choice<LoopEqual>, 2>{
      {{LoopEqual::Longest, "longest", "", "As the longest",
        "Variations of one loop are all as long as the longest of them"},
       {LoopEqual::Refused, "refused", "variations of unequal length refused", "Refuse unequal ones",
        "Variations of one loop that are not equally long are not made"}}};
}

inline constexpr double kMaxLoopSeconds = 86400.0;
inline constexpr double kMaxLoopBars = 9999.0;
inline constexpr int kMaxLaps = 64;
inline constexpr double kMaxBlendMs = 60000.0;
inline constexpr double kMaxLoopSearchMs = 5000.0;

template <class Way>
struct LoopOf {
  Way way{};
  // The body, from the span's start on: one of the three, the others 0; all 0: the span.
  Frame frames = 0;    ///< of the session
  double seconds = 0;  ///< 0 … kMaxLoopSeconds
  double bars = 0;     ///< 0 … kMaxLoopBars
  int laps = 0;        ///< 0 … kMaxLaps that are played of an inner lap; 0: as many as the tail asks for
  bool keepIntro = false;                    ///< of an inner lap: the laps and the lead-in before it stay
  double blendMs = 500;                      ///< 0 … kMaxBlendMs, at most the body
  BlendLaw blendLaw = BlendLaw::ByLikeness;  ///< of a blend
  double searchMs = 10;                      ///< 0 … kMaxLoopSearchMs to either side, of a plain join
  LoopEqual equal = LoopEqual::Longest;
  std::string unknownKeys = {};  ///< as a brief's
  bool operator==(const LoopOf&) const = default;

  bool hasLength() const { return frames > 0 || seconds > 0 || bars > 0; }
};
using Loop = LoopOf<LoopWay>;
/// What a region or clip set has otherwise than its brief; what is at its default is the brief's.
using OwnLoop = LoopOf<std::optional<LoopWay>>;

/// The brief's loop with what a span has of its own. A length of its own takes the place of the brief's.
Loop loopWith(Loop loop, const OwnLoop& own);

}  // namespace octaphon
