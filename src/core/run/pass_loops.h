// What the loops of a pass wait for: how alike the ends of a blend are, and the best places for a plain join.
// Heard in the mix of each brief and span, so that all its files go the same way.
#pragma once

#include <vector>

#include "finish/finish_plan.h"
#include "plan/sheet.h"
#include "recipe/recipe.h"
#include "run/lap_tap.h"
#include "run/tap_list.h"

namespace octaphon {

/// Out of the mix over a span, from its first frame on.
LoopDecision decideLoop(const SpanLoopPlan& plan, const PlannedSpan& span, const Lap& heard);

/// The mix of a span, as a brief hears it.
LapTap tapOfMix(SpanRecipe& recipe, TapList& taps, const Brief& brief, const PlannedSpan& span, int rate);

class PassLoops {
 public:
  PassLoops(const Sheet& sheet, SpanRecipe& recipe, TapList& taps)
      : sheet_(sheet), recipe_(recipe), taps_(taps) {}

  /// The loop that a row waits for; nothing where it waits for none.
  std::optional<std::size_t> add(std::size_t row);

  /// Once, before the first block.
  void begin(const TapSource& source);
  /// The block that starts `at` frames after the first one that counts.
  void take(const TapSource& source, Frame at, Frame frames);
  /// Frames from the first one that counts which have to be given, latency included.
  Frame framesWanted() const;
  /// Once all was given.
  LoopDecision decide(std::size_t loop) const;

 private:
  struct LoopOfSpan {
    const TappedSound* sound;
    LapTap mix;
  };

  const Sheet& sheet_;
  SpanRecipe& recipe_;
  TapList& taps_;
  std::vector<LoopOfSpan> loops_;
};

}  // namespace octaphon
