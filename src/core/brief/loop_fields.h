// The fields of a loop, of a brief or of what a span has of its own.
#pragma once

#include "base/description.h"
#include "brief/loop.h"

namespace octaphon {

/// The fields of a loop, of a brief or a span: they differ in the kind of `way` alone.
template <class L, class WayKind>
constexpr auto loopFields(const char* name, WayKind way, const char* wayMeaning) {
  return description(
      name,  //
      field<&L::way>("way", way, wayMeaning).labelled("Way"),
      field<&L::frames>(
          "frames", FramesKind{},
          "the body from the span's start on, in frames of the session; one of the three, none: "
          "the span")
          .labelled("Body in frames"),
      field<&L::seconds>("seconds", NumberKind{0, kMaxLoopSeconds, "s", 3}, "the same in seconds")
          .labelled("Body in seconds"),
      field<&L::bars>("bars", NumberKind{0, kMaxLoopBars, "bars", 2}, "the same in bars")
          .labelled("Body in bars"),
      field<&L::laps>(
          "laps", IntegerKind{0, kMaxLaps},
          "of `inner-lap`: so many are played, the last but one is kept; 0: as many as its tail asks "
          "for, and one that proves it")
          .labelled("Laps"),
      field<&L::keepIntro>("keep_intro", FlagKind{},
                           "of `inner-lap`: the lead-in and the laps before stay in the file")
          .labelled("Keep what comes before"),
      field<&L::blendMs>("blend_ms", NumberKind{0, kMaxBlendMs, "ms", 0}, "of `blend`, at most the body")
          .labelled("Length of the blend"),
      field<&L::blendLaw>(
          "blend_law", ChoiceKind<BlendLaw>{true},
          "of `blend`: `by-likeness` is equal gain where both sounds are alike, else equal power")
          .labelled("Gains of the blend"),
      field<&L::searchMs>("search_ms", NumberKind{0, kMaxLoopSearchMs, "ms", 0},
                          "of `plain`: start and end may move so far to either side")
          .labelled("Search within"),
      field<&L::equal>(
          "equal", ChoiceKind<LoopEqual>{true},
          "of variations (spans whose names differ in their number alone): all as the longest, or "
          "`refused` where they differ")
          .labelled("Variations"));
}
/// The way that a field of a loop belongs to; None: to all.
template <class L, class TheField>
constexpr LoopWay wayOfField(const TheField& field) {
  if (isField<&L::laps>(field) || isField<&L::keepIntro>(field)) return LoopWay::InnerLap;
  if (isField<&L::blendMs>(field) || isField<&L::blendLaw>(field)) return LoopWay::Blend;
  return isField<&L::searchMs>(field) ? LoopWay::Plain : LoopWay::None;
}
constexpr auto describe(const Loop*) {
  return loopFields<Loop>("loop", ChoiceKind<LoopWay>{true}, "how the end meets the start");
}
constexpr auto describe(const OwnLoop*) {
  return loopFields<OwnLoop>("own-loop", OptionalChoiceKind<LoopWay>{},
                             "null: the brief's, as whatever else is at its default");
}
static_assert(isDescribedWhole<Loop>() && isDescribedWhole<OwnLoop>());

}  // namespace octaphon
