#include "plan/level_remarks.h"

#include <cmath>

#include "base/decibels.h"
#include "base/unicode.h"

namespace octaphon {
namespace {

constexpr double kShort = 0.05;       // dB: less is not seen in what is told
constexpr double kOver = 0.1;         // dB: true peaks are found as exactly as that
constexpr double kOverLimiter = 0.2;  // a limiter looks at fewer samples between samples
constexpr double kShortOfLufs = 0.1;  // what receivers allow is more (common practice, no source)

const GainSet& gainSetOf(const Sheet& sheet, const Row& row) { return sheet.gainSetOf(sheet.soundOf(row)); }

std::string aimText(const GainSet& set) {
  return decibelText(set.asked.target()) + " " + unitOf(set.asked.level.kind);
}

Remark unjudgedRemark(const GainSet& set, const Row& row) {
  const bool isLoudness = set.asked.level.kind == LevelKind::Loudness;
  return {
      Severity::Note, RemarkCode::LevelNotJudged, row.file,
      std::string(isLoudness ? "Its loudness cannot be judged: it is under 400 ms, or nothing of it is over "
                               "−70 LUFS. It stays as loud as it is; bring it to a peak instead"
                             : "It is silent, and stays so")};
}

Remark shortRemark(const GainSet& set, const Row& row, double shortDb) {
  const std::string whose = set.sounds.size() == 1 ? "it" : "all that has its gain";
  return {Severity::Warning, RemarkCode::LevelNotReached, row.file,
          "Its ceiling of " + decibelText(*set.asked.ceilingDb) + " dBTP keeps " + whose + " " +
              decibelText(shortDb) + " dB under " + aimText(set) +
              ". Aim lower, or let a limiter keep the ceiling, which layers cannot have"};
}

Remark limitedRemark(const GainSet& set, const Row& row, double lufs) {
  return {
      Severity::Warning, RemarkCode::LevelNotReached, row.file,
      "Behind its limiter it is at " + decibelText(lufs) + " LUFS instead of " + aimText(set) +
          ", as near as a few turns came: what is limited so hard hardly gets louder. Aim lower, or raise "
          "the ceiling"};
}

/// What the file is to stay under.
std::optional<double> mostTruePeak(const GainSet& set) {
  if (set.asked.ceilingDb) return set.asked.ceilingDb;
  return set.asked.level.kind == LevelKind::TruePeak ? std::optional(set.asked.target()) : std::nullopt;
}

Remark overRemark(const GainSet& set, const Row& row, double truePeakDb, double mostDb) {
  const std::string over = decibelText(truePeakDb) + " dBTP, " + decibelText(truePeakDb - mostDb) +
                           " dB over " + decibelText(mostDb);
  const char* cure =
      ": its gain goes by the first file of its sound, which has another rate or other channels. Give it "
      "a brief of its own";
  if (set.isLimited) cure = ": it is too sharp for its limiter. Lower the ceiling by as much";
  if (encodingInfo(row.encoding).isLossy())
    cure = ": what a lossy format leaves out moves peaks. Aim lower by as much";
  return {Severity::Warning, RemarkCode::OverCeiling, row.file,
          "As it decodes, its true peak is " + over + cure};
}

}  // namespace

std::vector<Remark> gainRemarks(const Sheet& sheet, const Row& row, const FoundGain& found) {
  const GainSet& set = gainSetOf(sheet, row);
  if (!found.isJudged) return {unjudgedRemark(set, row)};
  if (set.asked.level.kind != LevelKind::None && found.shortDb > kShort)
    return {shortRemark(set, row, found.shortDb)};
  return {};
}

std::vector<Remark> levelRemarks(const Sheet& sheet, const Row& row, const Levels& levels) {
  const GainSet& set = gainSetOf(sheet, row);
  std::vector<Remark> remarks;
  if (set.isSearched() && levels.lufs && !levels.isSilent() &&
      std::fabs(*levels.lufs - set.asked.target()) > kShortOfLufs)
    remarks.push_back(limitedRemark(set, row, *levels.lufs));
  const std::optional<double> most = mostTruePeak(set);
  const bool isLossy = encodingInfo(row.encoding).isLossy();
  if (most && levels.truePeakDb &&
      *levels.truePeakDb - *most > (set.isLimited && !isLossy ? kOverLimiter : kOver))
    remarks.push_back(overRemark(set, row, *levels.truePeakDb, *most));
  return remarks;
}

Remark movedGainRemark(const Row& first, std::size_t files, double gainDb) {
  const std::string which = files == 1 ? printable(first.file, 60) + ", which stayed, was"
                                       : printable(first.file, 60) + " and " +
                                             counted(files - 1, "more file") + " that stayed were";
  return {Severity::Warning, RemarkCode::GainMoved, first.file,
          "The gain of a set is " + decibelText(gainDb) + " dB now. " + which +
              " made with another one: make what is due once more"};
}

}  // namespace octaphon
