#include "plan/row_levels.h"

#include <algorithm>
#include <map>
#include <tuple>

#include "naming/file_name.h"

namespace octaphon {
namespace {

bool isAsPlanned(const Row& row) {
  return row.state == RowState::UpToDate || row.state == RowState::Renamed ||
         row.state == RowState::OlderEngine;
}

struct Sibling {
  Row* row;
  double db;
};

double middleOf(std::vector<Sibling>& siblings) {
  std::sort(siblings.begin(), siblings.end(), [](const Sibling& a, const Sibling& b) { return a.db < b.db; });
  const std::size_t half = siblings.size() / 2;
  return siblings.size() % 2 == 1 ? siblings[half].db : (siblings[half - 1].db + siblings[half].db) / 2;
}

void setApart(std::vector<Sibling>& siblings) {
  const double middle = middleOf(siblings);
  for (const Sibling& one : siblings) one.row->apart = static_cast<float>(one.db - middle);
}

/// Whether the levels of any of its files are known.
bool isAnyKnown(const Sheet& sheet, const PlannedBrief& brief) {
  const auto first = sheet.rows.begin() + static_cast<std::ptrdiff_t>(brief.firstRow);
  return std::any_of(first, first + static_cast<std::ptrdiff_t>(brief.rowCount), [&](const Row& row) {
    return row.made != nullptr || sheet.soundOf(row).levels.has_value();
  });
}

void findApartIn(Sheet& sheet, const PlannedBrief& brief) {
  std::vector<std::string> names;
  for (const PlannedSpan& span : brief.spans) names.push_back(baseName(span.name));
  struct Variations {
    std::vector<Sibling> byLoudness, byPeak;
  };
  std::map<std::tuple<std::uint32_t, std::uint32_t, int, std::string_view>, Variations> groups;
  for (std::size_t i = brief.firstRow; i < brief.firstRow + brief.rowCount; ++i) {
    Row& row = sheet.rows[i];
    const Levels levels = levelsOf(sheet, row).levels;
    if (!levels.peakDb || levels.isSilent()) continue;
    const TappedSound& sound = sheet.soundOf(row);
    Variations& group = groups[{sound.source, row.output, row.part, names[sound.span]}];
    group.byPeak.push_back({&row, *levels.peakDb});
    if (levels.lufs) group.byLoudness.push_back({&row, *levels.lufs});
  }
  for (auto& [key, group] : groups) {
    if (group.byLoudness.size() > 1)
      setApart(group.byLoudness);
    else if (group.byPeak.size() > 1)
      setApart(group.byPeak);
  }
}

}  // namespace

RowLevels levelsOf(const Sheet& sheet, const Row& row) {
  if (row.made && isAsPlanned(row)) return {row.made->gainDb, row.made->levels};
  const TappedSound& sound = sheet.soundOf(row);
  const GainSet& set = sheet.gainSetOf(sound);
  RowLevels known{set.gainDb, {}};
  // A limiter, another rate and other channels have levels of their own.
  if (set.gainDb && sound.levels && !set.isLimited && row.isLead && row.part == 0)
    known.levels = sound.levels->raised(*set.gainDb);
  return known;
}

std::optional<double> heardGainOf(const Sheet& sheet, const Row& row) {
  const GainSet& set = sheet.gainSetOf(sheet.soundOf(row));
  if (set.gainDb) return set.gainDb;
  if (row.made && isAsPlanned(row)) return row.made->gainDb;
  return set.found ? std::optional(set.found->db) : std::nullopt;
}

void findApart(Sheet& sheet) {
  for (const PlannedBrief& brief : sheet.briefs)
    if (brief.spans.size() > 1 && isAnyKnown(sheet, brief)) findApartIn(sheet, brief);
}

}  // namespace octaphon
