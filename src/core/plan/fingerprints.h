// Fingerprints of rows, worked out where they are needed: for files that are there, and for those that are
// made.
#pragma once

#include "ledger/fingerprint.h"
#include "plan/row_data.h"
#include "plan/sheet.h"
#include "recipe/recipe.h"

namespace octaphon {

/// A row's fingerprint out of the recipe of its span. `tap` is the row's; `tail` what the file has, or will
/// have, of one that rings out: frames of the session.
/// `gainDb` that its level has, or will have.
Fingerprint fingerprintOf(const Sheet& sheet, const RowData& data, const Row& row, SpanRecipe& recipe,
                          const Tap& tap, Frame tail, std::optional<double> gainDb);

/// The part of it that says how a file is written.
Digest formDigest(const Sheet& sheet, const Row& row, Frame tail, std::optional<double> gainDb);

/// What the levels of a sound depend on, before any gain. `lead` is its first row.
Digest levelDigest(const Sheet& sheet, const Row& lead, SpanRecipe& recipe, const Tap& tap, Frame tail);
/// Under which levels of a sound stand in receipts.
std::string levelKeyOf(const Sheet& sheet, const Row& lead);

/// What the length of a span's tail depends on: all its sources, printed now or not, and how it is listened
/// for.
Digest tailDigest(const Sheet& sheet, const TappedSound& sound, SpanRecipe& recipe);

/// What trimming a row depends on.
Digest trimDigest(const Fingerprint& fingerprint);

/// Fingerprints of rows one after the other; rows of one span in a row share their recipe. Keeps references.
class Fingerprints {
 public:
  Fingerprints(const Sheet& sheet, const RowData& data, const SignalContext& context)
      : sheet_(sheet), data_(data), context_(context) {}
  /// `tail` as above; by default what was heard of it, or the limit. `gainDb` as above; by default that of
  /// its set, as far as it is known.
  Fingerprint of(const Row& row, std::optional<Frame> tail = std::nullopt,
                 std::optional<double> gainDb = std::nullopt);
  Digest levelOf(const Row& lead, std::optional<Frame> tail = std::nullopt);
  Digest tailOf(const TappedSound& sound) { return tailDigest(sheet_, sound, recipeOf(sound)); }

 private:
  SpanRecipe& recipeOf(const TappedSound& sound);

  const Sheet& sheet_;
  const RowData& data_;
  const SignalContext& context_;
  std::uint32_t brief_ = 0, span_ = 0;  // of recipe_
  std::unique_ptr<SpanRecipe> recipe_;
};

}  // namespace octaphon
