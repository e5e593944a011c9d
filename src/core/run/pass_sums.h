// The sums of a pass: which layers should add up to what, measured while the pass runs.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "plan/sheet.h"
#include "recipe/recipe.h"
#include "run/sum_meter.h"
#include "run/sum_part.h"
#include "run/tap_list.h"

namespace octaphon {

class PassSums {
 public:
  PassSums(const Sheet& sheet, SpanRecipe& recipe, TapList& taps)
      : sheet_(sheet), recipe_(recipe), taps_(taps) {}

  /// The sum of all layers of the brief and span that a row belongs to, made now or not. Once for each of
  /// them.
  void add(std::size_t row);

  /// Once, before the first block.
  void begin(const TapSource& source);
  /// The tail of a brief's span has been listened to for so many frames of the file.
  void endAt(std::uint32_t brief, std::uint32_t span, Frame frames);
  /// The block that starts `at` frames after the file's first one.
  void take(const TapSource& source, Frame at, Frame frames);
  /// After begin(): frames from the file's first one that are measured, latency included.
  Frame framesWanted() const;
  std::vector<SumOutcome> outcomes() const;
  /// What a row's file is in a sum that was judged and adds up to the file of the mix.
  SumPart partOf(const Row& row) const;

 private:
  struct Sum {
    SumOutcome outcome;
    std::optional<SumMeter> meter;    // none where nothing can be judged
    std::vector<std::size_t> layers;  // sources
    std::vector<SignalIssue> issues;
  };

  void addMeter(Sum& sum, const TappedSound& sound, const std::vector<std::size_t>& sources);
  SumOutcome judged(const Sum& sum) const;
  std::string verdictText(const Sum& sum, const SumOutcome& outcome) const;

  const Sheet& sheet_;
  SpanRecipe& recipe_;
  TapList& taps_;
  std::vector<Sum> sums_;
};

}  // namespace octaphon
