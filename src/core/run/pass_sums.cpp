#include "run/pass_sums.h"

#include <algorithm>
#include <cmath>

#include "base/unicode.h"
#include "plan/partition.h"

namespace octaphon {
namespace {

std::string residualText(double decibels) {
  char text[32];
  std::snprintf(text, sizeof text, "%.1f dB", std::fabs(decibels));
  return (decibels < 0 ? "−" : "") + std::string(text);
}

/// Why layers may not add up, where it is known.
std::string causeOf(const std::vector<SignalIssue>& issues) {
  for (const SignalIssue& issue : issues) {
    if (issue.code == RemarkCode::CannotSplit)
      return ": " + printable(issue.what, 200) + " cannot be split among layers";
    if (issue.code == RemarkCode::KeyedAlone)
      return ": " + printable(issue.what, 200) + " reacts to each layer alone. Key them by the mix";
  }
  return {};
}

/// Whether all files of a sound's span are made louder by the same, and no limiter is at work.
bool haveOneGain(const Sheet& sheet, const TappedSound& sound) {
  const auto beside = sheet.soundsBeside(sound);
  const GainSet& first = sheet.gainSetOf(beside.front());
  return std::all_of(beside.begin(), beside.end(), [&](const TappedSound& other) {
    const GainSet& set = sheet.gainSetOf(other);
    return !set.isLimited && (&set == &first || (!set.isFound() && set.gainDb == first.gainDb));
  });
}

}  // namespace

void PassSums::add(std::size_t row) {
  const TappedSound& sound = sheet_.soundOf(sheet_.rows[row]);
  const bool isThere = std::any_of(sums_.begin(), sums_.end(), [&](const Sum& sum) {
    return sum.outcome.brief == sound.brief && sum.outcome.span == sound.span;
  });
  if (isThere) return;
  const PlannedBrief& brief = sheet_.briefs[sound.brief];
  std::vector<std::size_t> present;
  for (const TappedSound& beside : sheet_.soundsBeside(sound)) present.push_back(beside.source);
  SumCheck check = sumCheckOf(recipe_, brief, brief.spans[sound.span], present);
  Sum& sum = sums_.emplace_back();
  sum.outcome.brief = sound.brief;
  sum.outcome.span = sound.span;
  sum.outcome.text = std::move(check.text);
  sum.layers = check.sources;
  if (check.isJudged && !haveOneGain(sheet_, sound))
    sum.outcome.text = "not all files of the span have one gain";
  else if (check.isJudged)
    addMeter(sum, sound, check.sources);
}

void PassSums::addMeter(Sum& sum, const TappedSound& sound, const std::vector<std::size_t>& indices) {
  const PlannedBrief& brief = sheet_.briefs[sound.brief];
  std::vector<PlannedSource> sources;
  sources.reserve(indices.size());
  for (const std::size_t index : indices) sources.push_back(brief.sources[index]);
  const Tap all = recipe_.everything(brief.brief, sources);
  std::vector<std::size_t> layers;
  for (const PlannedSource& source : sources) {
    const Tap tap = recipe_.tap(brief.brief, source);
    sum.issues.insert(sum.issues.end(), tap.issues.begin(), tap.issues.end());
    layers.push_back(
        taps_.add(recipe_.asWide(tap.node, all.channels), {&brief.brief, {source}, false, all.channels}));
  }
  const std::size_t reference = taps_.add(all.node, {&brief.brief, sources, true});
  const PlannedSpan& span = brief.spans[sound.span];
  const bool endsByHearing = span.ringsOut || span.loop.way == LoopWay::Fold;
  const Frame wanted = endsByHearing ? span.end() - span.first() : sound.frames;
  sum.meter.emplace(std::move(layers), reference, sound.frames, wanted);
}

void PassSums::endAt(std::uint32_t brief, std::uint32_t span, Frame frames) {
  for (Sum& sum : sums_)
    if (sum.meter && sum.outcome.brief == brief && sum.outcome.span == span) sum.meter->endAt(frames);
}

void PassSums::begin(const TapSource& source) {
  for (Sum& sum : sums_)
    if (sum.meter) sum.meter->begin(source);
}

void PassSums::take(const TapSource& source, Frame at, Frame frames) {
  for (Sum& sum : sums_)
    if (sum.meter) sum.meter->take(source, at, frames);
}

Frame PassSums::framesWanted() const {
  Frame frames = 0;
  for (const Sum& sum : sums_)
    if (sum.meter) frames = std::max(frames, sum.meter->framesWanted());
  return frames;
}

std::vector<SumOutcome> PassSums::outcomes() const {
  std::vector<SumOutcome> outcomes;
  for (const Sum& sum : sums_) outcomes.push_back(judged(sum));
  return outcomes;
}

/// The file of the mix beside a row's: of the same form. Null where there is none.
static const Row* mixBeside(const Sheet& sheet, const Row& row) {
  for (const TappedSound& sound : sheet.soundsBeside(sheet.soundOf(row))) {
    if (sheet.briefs[sound.brief].sources[sound.source].kind != PlannedSource::Kind::Mix) continue;
    const auto index = static_cast<std::uint32_t>(&sound - sheet.sounds.data());
    const auto isBefore = [&](const Row& other) { return other.sound < index; };
    for (auto other = std::partition_point(sheet.rows.begin(), sheet.rows.end(), isBefore);
         other != sheet.rows.end() && other->sound == index; ++other)
      if (other->output == row.output && other->part == row.part) return &*other;
  }
  return nullptr;
}

SumPart PassSums::partOf(const Row& row) const {
  const TappedSound& sound = sheet_.soundOf(row);
  const auto sum = std::find_if(sums_.begin(), sums_.end(), [&](const Sum& one) {
    return one.outcome.brief == sound.brief && one.outcome.span == sound.span;
  });
  const bool isKept = !sheet_.endsOf(row).asked.trimDb && !encodingInfo(row.encoding).isLossy();
  if (sum == sums_.end() || !isKept || judged(*sum).verdict != SumVerdict::AddsUp) return {};
  const Row* mix = mixBeside(sheet_, row);
  if (mix == nullptr || mix->channels != row.channels || mix->rate != row.rate) return {};
  if (mix == &row) return {{}, static_cast<int>(sum->layers.size())};
  const bool isLayer = std::find(sum->layers.begin(), sum->layers.end(), sound.source) != sum->layers.end();
  return isLayer ? SumPart{sheet_.keyOf(*mix), 0} : SumPart{};
}

SumOutcome PassSums::judged(const Sum& sum) const {
  SumOutcome outcome = sum.outcome;
  if (!sum.meter) return outcome;
  if (!sum.meter->problem().empty()) {
    outcome.text = sum.meter->problem();
    return outcome;
  }
  outcome.residualDb = sum.meter->residualDb();
  outcome.verdict = outcome.residualDb < kSumToleranceDb ? SumVerdict::AddsUp : SumVerdict::Differs;
  outcome.text = verdictText(sum, outcome);
  return outcome;
}

std::string PassSums::verdictText(const Sum& sum, const SumOutcome& outcome) const {
  const Brief& brief = sheet_.briefs[outcome.brief].brief;
  const std::string whole =
      brief.heard.reach.stage == ReachStage::Main ? "the mix" : "what they are taken from";
  const std::string layers = counted(sum.layers.size(), "layer");
  const bool isOne = sum.layers.size() == 1;
  if (outcome.verdict == SumVerdict::Differs)
    return layers + (isOne ? " differs" : " together differ") + " from " + whole + " by up to " +
           residualText(outcome.residualDb) + causeOf(sum.issues);
  return layers + (isOne ? " is " : " add up to ") + whole +
         (outcome.residualDb <= kExactSumDb ? ", exactly" : ", within " + residualText(outcome.residualDb));
}

}  // namespace octaphon
