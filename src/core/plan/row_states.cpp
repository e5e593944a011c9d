#include "plan/row_states.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

#include "plan/fingerprints.h"

namespace octaphon {
namespace {

RowState stateOf(const Sheet& sheet, const Row& row, const FolderFacts& folder, Fingerprints& fingerprints) {
  if (row.state == RowState::Fault) return RowState::Fault;
  const auto found = folder.files.find(row.file);
  if (found == folder.files.end()) return RowState::ToMake;
  switch (found->second.verdict) {
    case FileVerdict::Foreign: return RowState::Foreign;
    case FileVerdict::Changed: return RowState::Changed;
    case FileVerdict::Ours: break;
  }
  const ReceiptLine& line = found->second.line;
  const bool same = line.key == sheet.keyOf(row) && line.fingerprint == fingerprints.of(row);
  return same ? RowState::UpToDate : RowState::Stale;
}

void addRemark(const Sheet& sheet, Row& row) {
  switch (row.state) {
    case RowState::Foreign:
      row.remarks.push_back({Severity::Warning, RemarkCode::ForeignFile, row.file,
                             "Something that is not ours has this name. It stays, unless you replace it by "
                             "hand or with --replace-foreign"});
      break;
    case RowState::Changed:
      row.remarks.push_back({Severity::Warning, RemarkCode::ChangedFile, row.file,
                             "Someone altered this file since it was made. It stays, unless you replace it "
                             "by hand or with --replace-foreign"});
      break;
    case RowState::Stale:
      if (sheet.briefOf(row).brief.delivery.existing == Existing::Keep)
        row.remarks.push_back({Severity::Note, RemarkCode::Kept, row.file,
                               "The file is older than the session, and the brief keeps what is there. "
                               "Choose 'replace' to make it again"});
      break;
    default: break;
  }
}

}  // namespace

std::map<std::filesystem::path, std::set<std::string>> plannedFiles(const Sheet& sheet) {
  std::map<std::filesystem::path, std::set<std::string>> files;
  for (const Row& row : sheet.rows)
    if (!row.file.empty()) files[sheet.briefOf(row).base].insert(row.file);
  return files;
}

void setStates(Sheet& sheet, const SignalContext& context,
               const std::map<std::filesystem::path, FolderFacts>& folders) {
  static const FolderFacts kNothing;
  std::vector<const FolderFacts*> ofBrief;
  for (PlannedBrief& brief : sheet.briefs) {
    const auto found = folders.find(brief.base);
    ofBrief.push_back(found == folders.end() ? &kNothing : &found->second);
    if (ofBrief.back()->damagedLines > 0)
      brief.remarks.push_back(
          {Severity::Warning, RemarkCode::DamagedReceipt, brief.base.string(),
           "Lines of the receipt in this folder cannot be read; files they speak of count as foreign"});
  }
  // In shares, each with recipes of its own.
  tbb::parallel_for(tbb::blocked_range<std::size_t>(0, sheet.rows.size(), 256), [&](const auto& share) {
    Fingerprints fingerprints(sheet, context);
    for (std::size_t i = share.begin(); i < share.end(); ++i) {
      Row& row = sheet.rows[i];
      row.state = stateOf(sheet, row, *ofBrief[sheet.soundOf(row).brief], fingerprints);
      addRemark(sheet, row);
    }
  });
}

}  // namespace octaphon
