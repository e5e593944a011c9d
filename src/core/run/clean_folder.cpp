#include "run/clean_folder.h"

#include <algorithm>
#include <set>

#include "base/trash.h"
#include "ledger/receipt_journal.h"

namespace octaphon {
namespace {

Result<> isStillOurs(const SafeFolder& folder, const Receipt& receipt, const SheetFolder::LeftOver& file) {
  OCTAPHON_ASSIGN(const FileHandle open, folder.openFile(file.file));
  const std::string place = (folder.path() / file.file).string();
  const std::vector<ReceiptLine>& lines = receipt.linesOf(file.file);
  for (auto line = lines.rbegin(); line != lines.rend(); ++line) {
    const auto content = digestOf(open.get(), place, line->head);
    if (content && *content == line->content) return {};
  }
  return fail(ErrorCode::Occupied, place, "the file was altered since it was made", "It stays as it is");
}

Result<> cleanOne(const SafeFolder& folder, const Receipt& receipt, const SheetFolder::LeftOver& file,
                  CleanWay way) {
  OCTAPHON_TRY(isStillOurs(folder, receipt, file));
  return way == CleanWay::Trash ? moveToTrash(folder, file.file) : folder.remove(file.file);
}

}  // namespace

void cleanFolder(const SheetFolder& folder, CleanWay way,
                 const std::function<void(const std::string& file, const Result<>& outcome)>& report) {
  if (folder.leftOver.empty()) return;
  const auto open = SafeFolder::open(folder.base, false);
  // Its lock keeps runs away meanwhile.
  auto journal = open ? ReceiptJournal::open(*open) : tl::unexpected(open.error());
  std::set<std::string> emptied;
  for (const SheetFolder::LeftOver& file : folder.leftOver) {
    Result<> outcome =
        journal ? cleanOne(*open, journal->receipt(), file, way) : Result<>(tl::unexpected(journal.error()));
    if (outcome) emptied.insert(folderOf(file.file));
    if (outcome) outcome = journal->noteRemoved(file.file);
    report(file.file, outcome);
  }
  for (auto below = emptied.rbegin(); below != emptied.rend(); ++below)
    for (std::string up = *below; !up.empty() && open->removeEmptyFolder(up); up = folderOf(up)) {
    }
}

}  // namespace octaphon
