#include "plan/fingerprints.h"

namespace octaphon {
namespace {

Digest soundOf(const TappedSound& sound, SpanRecipe& recipe, const Tap& tap) {
  Hasher hasher;
  hasher.add(recipe.soundDigest(tap));
  hasher.add(sound.frames);
  return hasher.digest();
}

constexpr int kWideForm = 2;  // revision of how more than two channels are written: with their places

Digest formOf(const Sheet& sheet, const Row& row) {
  Hasher hasher;
  hasher.add(encodingInfo(row.encoding).name);
  hasher.add(row.channels);
  hasher.add(row.frames);
  if (row.channels > 2) hasher.add(kWideForm);
  hasher.add(std::string_view(sheet.keyOf(row)));  // chooses the noise of dither
  return hasher.digest();
}

Digest tagsOf(const Row& row) {
  Hasher hasher;
  hasher.add(std::string_view(row.file));
  return hasher.digest();
}

}  // namespace

Fingerprint fingerprintOf(const Sheet& sheet, const Row& row, SpanRecipe& recipe, const Tap& tap) {
  return {soundOf(sheet.soundOf(row), recipe, tap), formOf(sheet, row), tagsOf(row),
          recipe.engineDigest(tap)};
}

Fingerprint Fingerprints::of(const Row& row) {
  SpanRecipe& recipe = recipeOf(sheet_.soundOf(row));
  return fingerprintOf(sheet_, row, recipe, recipe.tap(sheet_.briefOf(row).brief, sheet_.sourceOf(row)));
}

SpanRecipe& Fingerprints::recipeOf(const TappedSound& sound) {
  if (recipe_ && brief_ == sound.brief && span_ == sound.span) return *recipe_;
  const PlannedBrief& brief = sheet_.briefs[sound.brief];
  const Counting counting = countingOf(brief.brief, sheet_.rate);
  brief_ = sound.brief;
  span_ = sound.span;
  const PlannedSpan& span = brief.spans[sound.span];
  recipe_ = std::make_unique<SpanRecipe>(context_, span, counting, context_.finder.heardIn(span, counting));
  return *recipe_;
}

}  // namespace octaphon
