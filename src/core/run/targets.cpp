#include "run/targets.h"

#include <algorithm>
#include <optional>
#include <set>

#include "base/unicode.h"
#include "ledger/lines_by_stamp.h"
#include "plan/numbering.h"
#include "plan/sentence.h"
#include "session/outline.h"

namespace octaphon {
namespace {

constexpr std::uint64_t kHeadBytes = 4096;  // of a file, besides its samples

std::string megabytes(std::uint64_t bytes) { return std::to_string(bytes / 1'000'000) + " MB"; }

}  // namespace

Result<Targets::Target> Targets::openOne(const FolderPath& base, const std::vector<std::size_t>& rows) const {
  OCTAPHON_ASSIGN(SafeFolder folder, SafeFolder::open(base, true));
  OCTAPHON_ASSIGN(ReceiptJournal journal, ReceiptJournal::open(folder, share_));
  std::set<const PlannedBrief*> briefs;
  for (const std::size_t row : rows)
    if (baseOf(row) == base) briefs.insert(&sheet_.briefOf(sheet_.rows[row]));
  for (const PlannedBrief* brief : briefs) OCTAPHON_TRY(begin(*brief, journal));
  OCTAPHON_TRY(journal.beginOutline(sheet_.sessionFile, outlineText(session_)));
  journal.settle();
  return Target{std::move(folder), std::make_unique<ReceiptJournal>(std::move(journal))};
}

/// Fixes edition and numbers of a brief that is delivered for the first time, and of what is new in it.
Result<> Targets::begin(const PlannedBrief& brief, ReceiptJournal& journal) const {
  if (!brief.edition.date.isThere()) return {};  // planned without a look at receipts
  const std::string& id = brief.brief.id;
  const auto edition = journal.receipt().editions().find(id);
  const bool isThere = edition != journal.receipt().editions().end();
  const auto numbers = journal.receipt().numbers().find(id);
  const bool isOther = (isThere ? edition->second.version : 0) != (brief.isBegun ? brief.edition.version : 0);
  const bool isAnother = isThere && !brief.isBegun && edition->second.version < brief.edition.version;
  static const StickyNumbers kNone;
  const StickyNumbers& fixed = numbers == journal.receipt().numbers().end() ? kNone : numbers->second;
  const bool differs = fixed != (brief.fixed ? *brief.fixed : kNone);
  if ((isOther && !isAnother) || differs)
    return fail(ErrorCode::Busy, printable(brief.brief.name, 80),
                "another run has delivered files of this brief meanwhile",
                "Look at the sheet again, and make them once more");
  if (!brief.isBegun) OCTAPHON_TRY(journal.begin(brief.edition));
  OCTAPHON_TRY(journal.begin(id, stickyNumbers(sheet_, brief), brief.countsAnew));
  std::vector<Accepted> accepted;
  for (const AcceptedRemark& one : brief.brief.accepted) accepted.push_back({one.code, one.reason, one.rows});
  OCTAPHON_TRY(journal.begin(id, accepted));
  return journal.begin(wordsOf(brief));
}

DeliveredBrief Targets::wordsOf(const PlannedBrief& planned) const {
  const Brief& brief = planned.brief;
  const auto place = std::find_if(session_.briefs.begin(), session_.briefs.end(),
                                  [&](const Brief& one) { return one.id == brief.id; });
  DeliveredBrief words{brief.id,
                       sheet_.sessionFile,
                       static_cast<int>(place - session_.briefs.begin()),
                       brief.name,
                       sentenceText(brief, session_),
                       brief.handOver.title,
                       brief.handOver.client,
                       brief.handOver.credit,
                       brief.handOver.notes};
  for (const PlannedSource& source : planned.sources) words.sources.push_back(source.key());
  return words;
}

void Targets::open(std::vector<std::size_t>& rows, const Refuse& refuse) {
  std::map<FolderPath, Error> refused;
  const std::vector<std::size_t> all = rows;
  std::erase_if(rows, [&](std::size_t row) {
    const FolderPath& base = baseOf(row);
    if (!targets_.contains(base) && !refused.contains(base)) {
      auto target = openOne(base, all);
      if (target)
        targets_.emplace(base, std::move(*target));
      else
        refused.emplace(base, target.error());
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
    needed[devices.at(&folderOf(row))] += dataBytes(sheet_.formOf(r), r.frames()) + kHeadBytes;
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
    (void)target.journal->compact();  // it is whole as it is
    if (target.journal->wasLost())
      remarks.push_back(
          {Severity::Warning, RemarkCode::DamagedReceipt, base.full().string(),
           "The receipt in " + base.full().string() +
               " was deleted while files were made. It was written anew, with all that was in it"});
  }
  return remarks;
}

namespace {

/// Files that were complete, and whose names their receipt says, but that have not got them.
class Finished {
 public:
  Finished(const Sheet& sheet, const SafeFolder& folder) : sheet_(sheet), folder_(folder) {}

  bool has(int fd) {
    if (!lines_) {
      receipt_ = Receipt::load(folder_);
      lines_.emplace(receipt_);
    }
    const ReceiptLine* line = lines_->of(fd);
    if (line == nullptr || !isWanted(*line)) return false;
    const auto named = folder_.openFile(line->file);
    return !named || stampOf(named->get()) != line->stamp;
  }

 private:
  /// A row of the sheet, or of briefs that it does not have, may take it.
  bool isWanted(const ReceiptLine& line) const {
    const std::string brief = line.brief();
    const bool isPlanned = std::any_of(sheet_.briefs.begin(), sheet_.briefs.end(),
                                       [&](const PlannedBrief& one) { return one.brief.id == brief; });
    return !isPlanned || sheet_.find(line.key).has_value();
  }

  const Sheet& sheet_;
  const SafeFolder& folder_;
  Receipt receipt_;
  std::optional<LinesByStamp> lines_;  // once a temporary file is there
};

}  // namespace

void sweepFolders(const Sheet& sheet) {
  std::map<FolderPath, std::set<std::string>> folders;
  for (const PlannedBrief& brief : sheet.briefs) folders[brief.base].insert("");
  for (const Row& row : sheet.rows)
    if (!row.file.empty()) folders[sheet.briefOf(row).base].insert(folderOf(row.file));
  for (const auto& [base, all] : folders) {
    const auto folder = SafeFolder::open(base, false);
    if (!folder) continue;
    Finished finished(sheet, *folder);
    for (const std::string& below : all)
      folder->removeTemporaries(below, [&](int fd) { return finished.has(fd); });
  }
}

}  // namespace octaphon
