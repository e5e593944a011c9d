#include "plan/gain_sets.h"

#include <algorithm>
#include <map>
#include <tuple>

#include "base/decibels.h"
#include "naming/file_name.h"

namespace octaphon {
namespace {

bool isMix(const Sheet& sheet, const TappedSound& sound) {
  return sheet.briefs[sound.brief].sources[sound.source].kind == PlannedSource::Kind::Mix;
}

/// What sounds of one set have in common; of a sound by itself its index.
std::string commonOf(const Sheet& sheet, std::uint32_t index, LevelPer per) {
  const TappedSound& sound = sheet.sounds[index];
  const PlannedBrief& brief = sheet.briefs[sound.brief];
  switch (per) {
    case LevelPer::File: return std::to_string(index);
    case LevelPer::Name: return "name:" + baseName(brief.spans[sound.span].name);
    case LevelPer::Span: return "span:" + std::to_string(brief.originals[sound.span]);
    case LevelPer::Brief: return "brief";
  }
  return {};
}

/// Layers get no limiter, nor what shares its gain with others: they would not add up, or keep their balance.
bool mayBeLimited(const Sheet& sheet, const GainSet& set) {
  const TappedSound& sound = sheet.sounds[set.sounds.front()];
  // A limiter would not meet itself at the seam.
  if (sheet.briefs[sound.brief].ends[sound.span].loop.isLap()) return false;
  return set.sounds.size() == 1 && (isMix(sheet, sound) || sheet.soundsBeside(sound).size() == 1);
}

std::optional<double> measureOf(const Levels& levels, LevelKind kind) {
  switch (kind) {
    case LevelKind::Peak: return levels.peakDb;
    case LevelKind::TruePeak: return levels.truePeakDb;
    case LevelKind::Loudness: return levels.lufs;
    default: return std::nullopt;
  }
}

}  // namespace

LevelsAsked GainSet::measures() const {
  return {asked.level.kind == LevelKind::TruePeak || asked.ceilingDb.has_value(),
          asked.level.kind == LevelKind::Loudness};
}

void planGainSets(Sheet& sheet, std::size_t brief) {
  const std::vector<Levelling>& all = sheet.briefs[brief].levellings;
  if (std::all_of(all.begin(), all.end(), [](const Levelling& asked) { return asked.changesNothing(); })) {
    GainSet& none = sheet.gainSets.emplace_back();
    none.gainDb = 0;
    for (std::uint32_t i = 0; i < sheet.sounds.size(); ++i) {
      if (sheet.sounds[i].brief != brief) continue;
      sheet.sounds[i].gainSet = static_cast<std::uint32_t>(sheet.gainSets.size() - 1);
      none.sounds.push_back(i);
    }
    return;
  }
  using Key = std::tuple<LevelKind, double, LevelPer, double, CeilingBy, std::string>;
  std::map<Key, std::uint32_t> sets;
  for (std::uint32_t i = 0; i < sheet.sounds.size(); ++i) {
    TappedSound& sound = sheet.sounds[i];
    if (sound.brief != brief) continue;
    const Levelling& asked = sheet.briefs[brief].levellings[sound.span];
    const LevelPer per = asked.changesNothing() ? LevelPer::Brief : asked.level.per;
    const Key key{asked.level.kind, asked.target(),         per, asked.ceilingDb.value_or(1),
                  asked.ceilingBy,  commonOf(sheet, i, per)};
    const auto [found, isNew] = sets.try_emplace(key, static_cast<std::uint32_t>(sheet.gainSets.size()));
    if (isNew) sheet.gainSets.push_back({asked, {}});
    sound.gainSet = found->second;
    sheet.gainSets[found->second].sounds.push_back(i);
  }
  for (const auto& [key, index] : sets) {
    GainSet& set = sheet.gainSets[index];
    set.isLimited =
        set.asked.ceilingDb && set.asked.ceilingBy == CeilingBy::Limiter && mayBeLimited(sheet, set);
  }
  findGains(sheet);
}

std::optional<FoundGain> gainOf(const Sheet& sheet, const GainSet& set,
                                const std::function<const Levels*(std::uint32_t sound)>& levelsOf) {
  const Levelling& asked = set.asked;
  FoundGain found;
  if (asked.level.kind == LevelKind::Gain) found.db = asked.target();
  if (!set.isFound()) return found;
  const bool hasAim = asked.level.kind > LevelKind::Gain;
  const bool hasCeiling = asked.ceilingDb && !set.isLimited;
  std::optional<double> loudest, loudestMix, highest;
  for (const std::uint32_t sound : set.sounds) {
    const Levels* levels = levelsOf(sound);
    if (levels == nullptr || !levels->answers(set.measures())) return std::nullopt;
    if (levels->isSilent()) continue;
    const auto raise = [](std::optional<double>& most, const std::optional<double>& level) {
      if (level) most = most ? std::max(*most, *level) : *level;
    };
    raise(loudest, measureOf(*levels, asked.level.kind));
    if (isMix(sheet, sheet.sounds[sound])) raise(loudestMix, measureOf(*levels, asked.level.kind));
    raise(highest, levels->truePeakDb);
  }
  const std::optional<double> reference = loudestMix ? loudestMix : loudest;
  found.isJudged = !hasAim || reference.has_value();
  if (hasAim && reference) found.db = asked.target() - *reference;
  const double wanted = found.db;
  if (hasCeiling && highest) found.db = std::min(found.db, *asked.ceilingDb - *highest);
  found.shortDb = wanted - found.db;
  return found;
}

void findGains(Sheet& sheet) {
  for (GainSet& set : sheet.gainSets) {
    set.found = gainOf(sheet, set, [&](std::uint32_t sound) {
      return sheet.sounds[sound].levels ? &*sheet.sounds[sound].levels : nullptr;
    });
    set.gainDb = set.found && !set.isSearched() ? std::optional(set.found->db) : std::nullopt;
  }
}

}  // namespace octaphon
