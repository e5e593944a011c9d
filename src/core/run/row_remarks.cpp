#include <algorithm>

#include "base/decibels.h"
#include "base/unicode.h"
#include "plan/level_remarks.h"
#include "plan/row_states.h"
#include "run/runner.h"

namespace octaphon {
namespace {

Remark clippedRemark(const Sheet& sheet, const Row& row, const Level& level) {
  const bool isLayer =
      sheet.sourceOf(row).kind != PlannedSource::Kind::Mix && sheet.briefOf(row).sources.size() > 1;
  // Layers keep their sum only under one gain.
  return {
      Severity::Warning, RemarkCode::Clipped, row.file,
      counted(level.clipped, "sample") + " over full scale, peak " + decibelText(decibelsOf(level.peak)) +
          " dBFS. Choose 32 bit float, or " +
          (isLayer ? "give the set one gain under a ceiling" : "lower a fader, or keep it under a ceiling")};
}

Remark cutRemark(const Row& row, const SpanEnds& ends, float level) {
  const bool isFaded = ends.fadeOut > 0;
  return {isFaded ? Severity::Note : Severity::Warning, RemarkCode::CutAtExact, row.file,
          "The sound goes on where the exact length cuts it, at " + decibelText(decibelsOf(level)) + " dBFS" +
              (isFaded ? ", and is faded out there" : ". Give it a fade out, or a longer length")};
}

/// What clips begin or end with, the loudest told of.
Remark stepRemark(const Session& session, const std::vector<ClipStep>& steps) {
  const ClipStep& loudest = *std::max_element(
      steps.begin(), steps.end(), [](const ClipStep& a, const ClipStep& b) { return a.level < b.level; });
  const Track& track = session.tracks[loudest.track.track()];
  const std::string many =
      steps.size() == 1 ? "" : counted(steps.size(), "step") + " at the edges of clips; the loudest: ";
  return {Severity::Note, RemarkCode::ClipStep, track.clips[loudest.clip].id,
          many + (many.empty() ? "A" : "a") + " clip on " + printable(track.name, 60) +
              (loudest.isStart ? " begins at " : " ends at ") + decibelText(decibelsOf(loudest.level)) +
              " dBFS. Give it a fade"};
}

constexpr double kLeastOffset = 0.001;  // −60 dBFS

Remark offsetRemark(const Row& row, double offset) {
  return {Severity::Note, RemarkCode::Offset, row.file,
          "The file is off centre by " + decibelText(decibelsOf(offset)) +
              " dBFS on the whole. A low cut takes that away"};
}

/// Under that, relative to the louder of full scale and the sound, two laps are equal.
constexpr float kEqualLaps = 1e-6f;

Remark lapsRemark(const Row& row, float difference) {
  return {Severity::Warning, RemarkCode::LapsDiffer, row.file,
          "The lap after the one that was kept differs from it by up to " +
              decibelText(decibelsOf(difference)) +
              " dB. Play more laps; what never repeats (slow modulation, some plug-ins) will not join"};
}

Remark foldLimitRemark(const Row& row, double leftDb) {
  return {Severity::Warning, RemarkCode::TailLimited, row.file,
          "What is folded onto its start was stopped by its limit, at " + decibelText(leftDb) +
              " dBFS. What never rings out (a delay that feeds itself on) cannot be folded whole"};
}

}  // namespace

std::vector<Remark> remarksOf(const Session& session, const Sheet& sheet, const RowOutcome& outcome) {
  const Row& row = sheet.rows[outcome.row];
  std::vector<Remark> remarks;
  if (outcome.level.clipped > 0) remarks.push_back(clippedRemark(sheet, row, outcome.level));
  // One that was heard before stands in the sheet.
  const bool isNew = !sheet.briefOf(row).rungOut[sheet.soundOf(row).span].isKnown;
  if (isNew && outcome.rungOut.isKnown && outcome.rungOut.byLimit)
    remarks.push_back(tailLimitedRemark(sheet, row, outcome.rungOut));
  if (outcome.facts.foldLeftDb) remarks.push_back(foldLimitRemark(row, *outcome.facts.foldLeftDb));
  if (outcome.facts.isCut && outcome.facts.cutLevel > 0)
    remarks.push_back(cutRemark(row, sheet.endsOf(row), outcome.facts.cutLevel));
  if (outcome.facts.lapDifference > kEqualLaps)
    remarks.push_back(lapsRemark(row, outcome.facts.lapDifference));
  if (!outcome.steps.empty()) remarks.push_back(stepRemark(session, outcome.steps));
  if (outcome.foundGain)
    for (Remark& remark : gainRemarks(sheet, row, *outcome.foundGain)) remarks.push_back(std::move(remark));
  for (Remark& remark : levelRemarks(sheet, row, outcome.levels)) remarks.push_back(std::move(remark));
  if (outcome.facts.offset >= kLeastOffset) remarks.push_back(offsetRemark(row, outcome.facts.offset));
  return remarks;
}

}  // namespace octaphon
