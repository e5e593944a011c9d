#include "run/level_book.h"

#include <algorithm>
#include <set>

#include "base/decibels.h"

namespace octaphon {
namespace {

Error unknownFor(const std::string& file, const std::string& why) {
  return {ErrorCode::LevelUnknown, file, why, "Mend that, or give each sound a gain of its own"};
}

/// What keeps a sound from being heard; what is wrong with names and forms of its files does not.
const Remark* faultOf(const TappedSound& sound) {
  const auto fault = std::find_if(sound.remarks.begin(), sound.remarks.end(),
                                  [](const Remark& remark) { return remark.severity == Severity::Fault; });
  return fault == sound.remarks.end() ? nullptr : &*fault;
}

}  // namespace

LevelBook::LevelBook(const Sheet& sheet, const std::vector<std::size_t>& rows) : sheet_(sheet) {
  std::set<std::uint32_t> measured;  // sounds whose first file is written, whole
  for (const std::size_t row : rows) {
    const Row& made = sheet.rows[row];
    if (made.isLead && made.part == 0) measured.insert(made.sound);
    const std::uint32_t set = sheet.soundOf(made).gainSet;
    if (!sheet.gainSets[set].gainDb) sets_.try_emplace(set);
  }
  for (auto& [index, waited] : sets_)
    for (const std::uint32_t sound : sheet.gainSets[index].sounds) {
      if (sheet.sounds[sound].levels) continue;
      const Row& lead = sheet.leadOf(sheet.sounds[sound]);
      if (const Remark* fault = faultOf(sheet.sounds[sound])) {
        waited.error = unknownFor(lead.file, fault->text);
        continue;
      }
      ++waited.missing;
      if (!measured.contains(sound)) heard_.push_back(static_cast<std::size_t>(&lead - sheet.rows.data()));
    }
}

std::optional<Levels> LevelBook::levelsOf(std::uint32_t sound) const {
  if (sheet_.sounds[sound].levels) return sheet_.sounds[sound].levels;
  const std::scoped_lock lock(mutex_);
  const auto found = levels_.find(sound);
  return found == levels_.end() ? std::nullopt : std::optional(found->second);
}

Result<double> LevelBook::gainOfSet(std::uint32_t set, const Waited& waited) const {
  if (waited.error) return tl::unexpected(*waited.error);
  const auto found = gainOf(sheet_, sheet_.gainSets[set], [&](std::uint32_t sound) -> const Levels* {
    if (sheet_.sounds[sound].levels) return &*sheet_.sounds[sound].levels;
    const auto heard = levels_.find(sound);
    return heard == levels_.end() ? nullptr : &heard->second;
  });
  return found ? found->db : 0;
}

std::vector<ReleasedRow> LevelBook::take(std::vector<HeardLevels> levels, std::vector<WaitingRow> waiting) {
  const std::scoped_lock lock(mutex_);
  std::set<std::uint32_t> touched;
  for (HeardLevels& heard : levels) {
    const std::uint32_t set = sheet_.sounds[heard.sound].gainSet;
    const auto waited = sets_.find(set);
    if (waited == sets_.end()) continue;
    touched.insert(set);
    --waited->second.missing;
    if (!heard.levels && heard.levels.error().code == ErrorCode::NothingLeft)
      heard.levels = Levels{sheet_.gainSets[set].measures(), kSilenceDb, {}, {}, {}};
    if (heard.levels)
      levels_.insert_or_assign(heard.sound, *heard.levels);
    else if (!waited->second.error)
      waited->second.error =
          unknownFor(sheet_.leadOf(sheet_.sounds[heard.sound]).file, heard.levels.error().describe());
  }
  for (WaitingRow& row : waiting) {
    const std::uint32_t set = sheet_.soundOf(row.output->row()).gainSet;
    touched.insert(set);
    sets_[set].rows.push_back(std::move(row));
  }
  std::vector<ReleasedRow> released;
  for (const std::uint32_t set : touched) {
    Waited& waited = sets_[set];
    if (waited.missing > 0) continue;
    for (WaitingRow& row : waited.rows) released.push_back({std::move(row), gainOfSet(set, waited)});
    waited.rows.clear();
  }
  return released;
}

std::vector<WaitingRow> LevelBook::rest() {
  const std::scoped_lock lock(mutex_);
  std::vector<WaitingRow> all;
  for (auto& [set, waited] : sets_)
    for (WaitingRow& row : waited.rows) all.push_back(std::move(row));
  sets_.clear();
  return all;
}

}  // namespace octaphon
