#include "run/targets.h"

#include <algorithm>
#include <set>

namespace octaphon {
namespace {

constexpr std::uint64_t kHeadBytes = 4096;  // of a file, besides its samples

std::string megabytes(std::uint64_t bytes) { return std::to_string(bytes / 1'000'000) + " MB"; }

}  // namespace

Result<Targets::Target> Targets::openOne(const FolderPath& base) {
  OCTAPHON_ASSIGN(SafeFolder folder, SafeFolder::open(base, true));
  OCTAPHON_ASSIGN(ReceiptJournal journal, ReceiptJournal::open(folder));
  return Target{std::move(folder), std::move(journal)};
}

/// Of the briefs that deliver into a folder for the first time.
Result<> Targets::beginEditions(const FolderPath& base, Target& target,
                                const std::vector<std::size_t>& rows) const {
  std::map<std::string, Edition> begun = editionsIn(target.folder);
  for (const std::size_t row : rows) {
    const PlannedBrief& brief = sheet_.briefOf(sheet_.rows[row]);
    if (brief.base != base || !brief.edition.date.isThere()) continue;
    if (begun.emplace(brief.brief.id, brief.edition).second)
      OCTAPHON_TRY(target.journal.begin(brief.edition));
  }
  return {};
}

void Targets::open(std::vector<std::size_t>& rows, const Refuse& refuse) {
  std::map<FolderPath, Error> refused;
  const std::vector<std::size_t> all = rows;
  std::erase_if(rows, [&](std::size_t row) {
    const FolderPath& base = baseOf(row);
    if (!targets_.contains(base) && !refused.contains(base)) {
      auto target = openOne(base);
      const Result<> begun = target ? beginEditions(base, *target, all) : Result<>();
      if (!target)
        refused.emplace(base, target.error());
      else if (!begun)
        refused.emplace(base, begun.error());
      else
        targets_.emplace(base, std::move(*target));
    }
    const auto why = refused.find(base);
    if (why != refused.end()) refuse(row, why->second);
    return why != refused.end();
  });
}

void Targets::checkSpace(std::vector<std::size_t>& rows, const Refuse& refuse) const {
  std::map<std::uint64_t, std::uint64_t> needed, free;  // by file system
  std::map<const SafeFolder*, std::uint64_t> devices;
  for (const auto& [base, target] : targets_) {
    const SafeFolder::Space space = target.folder.space();
    devices[&target.folder] = space.device;
    free[space.device] = space.free;
  }
  for (const std::size_t row : rows) {
    const Row& r = sheet_.rows[row];
    needed[devices.at(&folderOf(row))] += dataBytes(r.encoding, r.frames(), r.channels) + kHeadBytes;
  }
  std::erase_if(rows, [&](std::size_t row) {
    const std::uint64_t device = devices.at(&folderOf(row));
    if (needed[device] <= free[device]) return false;
    refuse(row, {ErrorCode::DiskFull, folderOf(row).path().string(),
                 "the files need " + megabytes(needed[device] + 999'999) + ", there are " +
                     megabytes(free[device]),
                 "Make space or choose another folder"});
    return true;
  });
}

std::vector<Remark> Targets::close() {
  std::vector<Remark> remarks;
  for (auto& [base, target] : targets_) {
    (void)target.journal.compact();  // it is whole as it is
    if (target.journal.wasLost())
      remarks.push_back(
          {Severity::Warning, RemarkCode::DamagedReceipt, base.full().string(),
           "The receipt in " + base.full().string() +
               " was deleted while files were made. It was written anew, with all that was in it"});
  }
  return remarks;
}

void sweepFolders(const Sheet& sheet) {
  std::map<FolderPath, std::set<std::string>> folders;
  for (const PlannedBrief& brief : sheet.briefs) folders[brief.base].insert("");
  for (const Row& row : sheet.rows)
    if (!row.file.empty()) folders[sheet.briefOf(row).base].insert(folderOf(row.file));
  for (const auto& [base, all] : folders)
    if (const auto folder = SafeFolder::open(base, false))
      for (const std::string& below : all) folder->removeTemporaries(below);
}

}  // namespace octaphon
