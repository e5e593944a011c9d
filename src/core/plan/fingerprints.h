// Fingerprints of rows, worked out where they are needed: for files that are there, and for those that are
// made.
#pragma once

#include "ledger/fingerprint.h"
#include "plan/sheet.h"
#include "recipe/recipe.h"

namespace octaphon {

/// A row's fingerprint out of the recipe of its span, or of a longer one that begins there. `tap` is the
/// row's.
Fingerprint fingerprintOf(const Sheet& sheet, const Row& row, SpanRecipe& recipe, const Tap& tap);

/// Fingerprints of rows one after the other; rows of one span in a row share their recipe. Keeps references.
class Fingerprints {
 public:
  Fingerprints(const Sheet& sheet, const SignalContext& context) : sheet_(sheet), context_(context) {}
  Fingerprint of(const Row& row);

 private:
  SpanRecipe& recipeOf(const TappedSound& sound);

  const Sheet& sheet_;
  const SignalContext& context_;
  std::uint32_t brief_ = 0, span_ = 0;  // of recipe_
  std::unique_ptr<SpanRecipe> recipe_;
};

}  // namespace octaphon
