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
      if (isKnown(sound)) continue;
      const Row& lead = sheet.leadOf(sheet.sounds[sound]);
      if (const Remark* fault = faultOf(sheet.sounds[sound])) {
        waited.error = unknownFor(lead.file, fault->text);
        continue;
      }
      waited.missing.insert(sound);
      if (!measured.contains(sound)) heard_.push_back(static_cast<std::size_t>(&lead - sheet.rows.data()));
    }
}

/// All that its gain takes.
bool LevelBook::isKnown(std::uint32_t sound) const {
  const TappedSound& planned = sheet_.sounds[sound];
  return planned.levels && planned.levels->answers(sheet_.gainSetOf(planned).measures());
}

std::optional<Levels> LevelBook::levelsOf(std::uint32_t sound) const {
  const std::scoped_lock lock(mutex_);
  const auto found = levels_.find(sound);
  return found == levels_.end() ? sheet_.sounds[sound].levels : std::optional(found->second);
}

std::optional<FoundGain> LevelBook::foundFor(std::uint32_t set) const {
  const std::scoped_lock lock(mutex_);
  const auto waited = sets_.find(set);
  return waited == sets_.end() ? std::nullopt : waited->second.found;
}

void LevelBook::find(std::uint32_t set, Waited& waited) const {
  if (waited.error || waited.found) return;
  waited.found = gainOf(sheet_, sheet_.gainSets[set], [&](std::uint32_t sound) -> const Levels* {
    const auto heard = levels_.find(sound);
    if (heard != levels_.end()) return &heard->second;
    return isKnown(sound) ? &*sheet_.sounds[sound].levels : nullptr;
  });
  if (!waited.found) waited.found = FoundGain{};
}

std::vector<ReleasedRow> LevelBook::take(std::vector<HeardLevels> levels, std::vector<WaitingRow> waiting) {
  const std::scoped_lock lock(mutex_);
  std::set<std::uint32_t> touched;
  for (HeardLevels& heard : levels) {
    const std::uint32_t set = sheet_.sounds[heard.sound].gainSet;
    const auto waited = sets_.find(set);
    if (waited == sets_.end()) {
      if (heard.levels) levels_.insert_or_assign(heard.sound, *heard.levels);
      continue;
    }
    touched.insert(set);
    waited->second.missing.erase(heard.sound);
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
    if (!waited.missing.empty()) continue;
    find(set, waited);
    for (WaitingRow& row : waited.rows)
      released.push_back({std::move(row), waited.error ? Result<double>(tl::unexpected(*waited.error))
                                                       : Result<double>(waited.found->db)});
    waited.rows.clear();
  }
  return released;
}

std::vector<WaitingRow> LevelBook::rest() {
  const std::scoped_lock lock(mutex_);
  std::vector<WaitingRow> all;
  for (auto& [set, waited] : sets_) {
    for (WaitingRow& row : waited.rows) all.push_back(std::move(row));
    waited.rows.clear();
  }
  return all;
}

}  // namespace octaphon
