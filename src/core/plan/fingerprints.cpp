#include "plan/fingerprints.h"

namespace octaphon {
namespace {

/// Revision of how tails are listened to.
constexpr int kTailRevision = 1;

/// How a tail is listened for.
void addTail(Hasher& hasher, const Ends& asked, const PlannedSpan& span) {
  hasher.add(kTailRevision);
  for (const double value : {asked.thresholdDb, asked.holdMs}) hasher.add(value);
  hasher.add(asked.relative);
  for (const Frame frames : {span.leadIn, span.length, span.tail}) hasher.add(frames);
}

/// Revision of how laps are made.
constexpr int kLoopRevision = 1;

void addLoop(Hasher& hasher, const SpanLoopPlan& loop, const PlannedSpan& span) {
  hasher.add(kLoopRevision);
  hasher.add(loop.asked.way);
  hasher.add(span.loop.laps);
  hasher.add(span.loop.keepsIntro);
  if (loop.asked.way == LoopWay::Blend) {
    hasher.add(loop.blend);
    hasher.add(loop.asked.blendLaw);
  }
  hasher.add(loop.search);
  hasher.add(loop.isLengthKept);
}

/// Places and gains that are found in the mix: what changes it may change them, for all files of the span.
void addDecision(Hasher& hasher, const Brief& brief, const SpanLoopPlan& loop, SpanRecipe& recipe) {
  if (!loop.waitsForMix()) return;
  hasher.add(recipe.soundDigest(recipe.tap(brief, PlannedSource::mix())));
}

Digest soundOf(const Sheet& sheet, const Row& row, SpanRecipe& recipe, const Tap& tap, Frame tail) {
  const PlannedSpan& span = sheet.spanOf(row);
  Hasher hasher;
  hasher.add(recipe.soundDigest(tap));
  hasher.add(span.leadIn);
  hasher.add(span.length);
  hasher.add(tail);
  hasher.add(span.ringsOut);
  if (sheet.endsOf(row).loop.isLap()) addLoop(hasher, sheet.endsOf(row).loop, span);
  addDecision(hasher, sheet.briefOf(row).brief, sheet.endsOf(row).loop, recipe);
  if (span.ringsOut) addTail(hasher, sheet.endsOf(row).asked, span);
  return hasher.digest();
}

constexpr int kWideForm = 2;  // revision of how more than two channels are written: with their places

/// What an encoder is asked for.
void addCoding(Hasher& hasher, const FileForm& form) {
  if (form.isLarge) hasher.add(form.isLarge);
  switch (form.encoding) {
    case Encoding::Flac16:
    case Encoding::Flac24: return hasher.add(form.coding.level);
    case Encoding::Vorbis: return hasher.add(form.coding.quality);
    case Encoding::Opus: return hasher.add(bitRateOf(form));
    case Encoding::Mp3: hasher.add(bitRateOf(form)); return hasher.add(form.coding.variable);
    default: return;
  }
}

/// Where a file begins and ends, at its rate.
void addLengths(Hasher& hasher, const Sheet& sheet, const Row& row, Frame tail) {
  const SpanEnds& ends = sheet.endsOf(row);
  const Extent extent = extentOf(ends.extent, tail);
  hasher.add(row.rate);
  for (const Frame part : {extent.leadIn, extent.body, extent.tail, ends.fadeIn, ends.fadeOut})
    hasher.add(part);
  if (ends.fadeIn > 0) hasher.add(ends.asked.fadeInShape);
  if (ends.fadeOut > 0) hasher.add(ends.asked.fadeOutShape);
  hasher.add(ends.asked.trimDb.value_or(1));
}

/// Revision of how levels are measured, and of the limiter.
constexpr int kLevelRevision = 1;

void addLevel(Hasher& hasher, const GainSet& set, std::optional<double> gainDb) {
  if (set.asked.changesNothing()) return;
  hasher.add(gainDb.value_or(0));
  if (!set.isLimited) return;
  hasher.add(kLevelRevision);
  hasher.add(*set.asked.ceilingDb);
  if (set.isSearched()) hasher.add(set.asked.target());
}

/// Trimming moves the time stamp by what the sound itself says.
Digest tagsOf(const Sheet& sheet, const RowData& data, const Row& row) {
  Hasher hasher;
  hasher.add(std::string_view(row.file));
  hasher.add(digestOf(data.of(row, sheet.endsOf(row).most())));
  return hasher.digest();
}

}  // namespace

/// Revision of the noise of dither.
static constexpr int kDitherRevision = 2;

Digest formDigest(const Sheet& sheet, const Row& row, Frame tail, std::optional<double> gainDb) {
  Hasher hasher;
  if (encodingInfo(row.encoding).isInteger) hasher.add(kDitherRevision);
  hasher.add(encodingInfo(row.encoding).name);
  hasher.add(row.channels);
  if (row.part > 0) {
    hasher.add(row.part);
    hasher.add(row.folded);
  }
  addLengths(hasher, sheet, row, tail);
  addLevel(hasher, sheet.gainSetOf(sheet.soundOf(row)), gainDb);
  if (row.channels > 2) hasher.add(kWideForm);
  addCoding(hasher, sheet.formOf(row));
  hasher.add(std::string_view(sheet.noiseKeyOf(row)));  // chooses the noise of dither
  return hasher.digest();
}

Fingerprint fingerprintOf(const Sheet& sheet, const RowData& data, const Row& row, SpanRecipe& recipe,
                          const Tap& tap, Frame tail, std::optional<double> gainDb) {
  return {soundOf(sheet, row, recipe, tap, tail), formDigest(sheet, row, tail, gainDb),
          tagsOf(sheet, data, row), recipe.engineDigest(tap)};
}

Digest levelDigest(const Sheet& sheet, const Row& lead, SpanRecipe& recipe, const Tap& tap, Frame tail) {
  Hasher hasher;
  hasher.add(kLevelRevision);
  hasher.add(soundOf(sheet, lead, recipe, tap, tail));
  hasher.add(recipe.engineDigest(tap));
  addLengths(hasher, sheet, lead, tail);
  hasher.add(lead.folded);
  return hasher.digest();
}

std::string levelKeyOf(const Sheet& sheet, const Row& lead) { return sheet.keyOf(lead) + "/level"; }

Digest tailDigest(const Sheet& sheet, const TappedSound& sound, SpanRecipe& recipe) {
  const PlannedBrief& brief = sheet.briefs[sound.brief];
  Hasher hasher;
  addTail(hasher, brief.ends[sound.span].asked, brief.spans[sound.span]);
  for (const TappedSound& beside : sheet.soundsBeside(sound)) {
    const Tap tap = recipe.tap(brief.brief, brief.sources[beside.source]);
    hasher.add(recipe.soundDigest(tap));
    hasher.add(recipe.engineDigest(tap));
  }
  return hasher.digest();
}

Digest trimDigest(const Fingerprint& fingerprint) {
  Hasher hasher;
  hasher.add(fingerprint.sound);
  hasher.add(fingerprint.form);
  hasher.add(fingerprint.engine);
  return hasher.digest();
}

Fingerprint Fingerprints::of(const Row& row, std::optional<Frame> tail, std::optional<double> gainDb) {
  SpanRecipe& recipe = recipeOf(sheet_.soundOf(row));
  return fingerprintOf(
      sheet_, data_, row, recipe, recipe.tap(sheet_.briefOf(row).brief, sheet_.sourceOf(row)),
      tail.value_or(sheet_.tailOf(row)), gainDb ? gainDb : sheet_.gainSetOf(sheet_.soundOf(row)).gainDb);
}

Digest Fingerprints::levelOf(const Row& lead, std::optional<Frame> tail) {
  SpanRecipe& recipe = recipeOf(sheet_.soundOf(lead));
  return levelDigest(sheet_, lead, recipe, recipe.tap(sheet_.briefOf(lead).brief, sheet_.sourceOf(lead)),
                     tail.value_or(sheet_.tailOf(lead)));
}

SpanRecipe& Fingerprints::recipeOf(const TappedSound& sound) {
  if (recipe_ && brief_ == sound.brief && span_ == sound.span) return *recipe_;
  const PlannedBrief& brief = sheet_.briefs[sound.brief];
  brief_ = sound.brief;
  span_ = sound.span;
  const PlannedSpan& span = brief.spans[sound.span];
  const Counting counting = countingOf(brief.brief, span, sheet_.rate);
  recipe_ = std::make_unique<SpanRecipe>(context_, span, counting, context_.finder.heardIn(span, counting));
  return *recipe_;
}

}  // namespace octaphon
