// The fields of a level, of a brief or of what a span has of its own.
#pragma once

#include "base/description.h"
#include "brief/level.h"

namespace octaphon {

template <class L, class KindKind, class PerKind>
constexpr auto levelFields(const char* name, KindKind kind, PerKind per, const char* kindMeaning) {
  return description(name,  //
                     field<&L::kind>("kind", kind, kindMeaning).labelled("Aim"),
                     field<&L::target>("target", OptionalNumberKind{{kLeastLevel, kMostLevel, "dB", 1}, -23},
                                       "in dB of gain, dBFS, LUFS or dBTP; null: 0, −1, −23, −1")
                         .labelled("At"),
                     field<&L::per>("per", per, "what has one gain").labelled("One gain for"));
}
constexpr auto describe(const LevelAim*) {
  return levelFields<LevelAim>("level", ChoiceKind<LevelKind>{true}, ChoiceKind<LevelPer>{true},
                               "what is brought to the target");
}
constexpr auto describe(const OwnLevelAim*) {
  return levelFields<OwnLevelAim>("own-level", OptionalChoiceKind<LevelKind>{},
                                  OptionalChoiceKind<LevelPer>{}, "null: the brief's, as all else here");
}
static_assert(isDescribedWhole<LevelAim>() && isDescribedWhole<OwnLevelAim>());

constexpr OptionalNumberKind kCeilingKind{{kLeastCeilingDb, kMostCeilingDb, "dBTP", 1}, kInsuranceDb};

constexpr auto describe(const OwnLevelling*) {
  using O = OwnLevelling;
  return description("own-levelling",  //
                     field<&O::level>("level", ObjectKind<OwnLevelAim>{}, "how loud, where it is otherwise"),
                     field<&O::ceilingDb>("ceiling_dbtp", kCeilingKind, "the same").labelled("Ceiling"),
                     field<&O::ceilingBy>("ceiling_by", OptionalChoiceKind<CeilingBy>{}, "the same")
                         .labelled("Kept under it"));
}
static_assert(isDescribedWhole<OwnLevelling>(0));

}  // namespace octaphon
