#include "plan/row_states.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

#include <algorithm>

#include "plan/fingerprints.h"

namespace octaphon {
namespace {

/// What states have to say; taken away when they are looked at again.
constexpr RemarkCode kOfStates[]{RemarkCode::UnusableFolder, RemarkCode::ForeignFile, RemarkCode::ChangedFile,
                                 RemarkCode::Kept, RemarkCode::DamagedReceipt};

void removeRemarksOfStates(std::vector<Remark>& remarks) {
  std::erase_if(remarks, [](const Remark& remark) {
    return std::find(std::begin(kOfStates), std::end(kOfStates), remark.code) != std::end(kOfStates);
  });
}

RowState stateOf(const Sheet& sheet, const Row& row, const FolderFacts& folder, Fingerprints& fingerprints) {
  if (sheet.faultOf(row) != nullptr) return RowState::Fault;
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
  const auto add = [&](Severity severity, RemarkCode code, const char* text) {
    row.remarks.push_back({severity, code, row.file, text});
  };
  switch (row.state) {
    case RowState::Foreign:
      return add(Severity::Warning, RemarkCode::ForeignFile,
                 "Something that is not ours has this name. It stays, unless you replace it by hand or with "
                 "--replace-foreign");
    case RowState::Changed:
      return add(
          Severity::Warning, RemarkCode::ChangedFile,
          "Someone altered this file since it was made. It stays, unless you replace it by hand or with "
          "--replace-foreign");
    case RowState::Stale:
      if (sheet.briefOf(row).brief.delivery.existing == Existing::Keep)
        add(Severity::Note, RemarkCode::Kept,
            "The file is older than the session, and the brief keeps what is there. Choose 'replace' to make "
            "it "
            "again");
      return;
    default: return;
  }
}

void setState(const Sheet& sheet, Row& row, const FolderFacts& folder, Fingerprints& fingerprints) {
  removeRemarksOfStates(row.remarks);
  if (const Error* problem = folder.problemOf(row.file))
    row.remarks.push_back({Severity::Fault, RemarkCode::UnusableFolder, row.file, problem->describe()});
  row.state = stateOf(sheet, row, folder, fingerprints);
  addRemark(sheet, row);
}

}  // namespace

std::map<FolderPath, std::set<std::string>> plannedFiles(const Sheet& sheet) {
  std::map<FolderPath, std::set<std::string>> files;
  for (const Row& row : sheet.rows)
    if (!row.file.empty()) files[sheet.briefOf(row).base].insert(row.file);
  return files;
}

void setStates(Sheet& sheet, const SignalContext& context, const std::map<FolderPath, FolderFacts>& folders) {
  static const FolderFacts kNothing;
  std::vector<const FolderFacts*> ofBrief;
  for (PlannedBrief& brief : sheet.briefs) {
    const auto found = folders.find(brief.base);
    removeRemarksOfStates(brief.remarks);
    ofBrief.push_back(found == folders.end() ? &kNothing : &found->second);
    if (ofBrief.back()->damagedLines > 0)
      brief.remarks.push_back(
          {Severity::Warning, RemarkCode::DamagedReceipt, brief.base.full().string(),
           "Lines of the receipt in this folder cannot be read; files they speak of count as foreign"});
  }
  // In shares, each with recipes of its own.
  tbb::parallel_for(tbb::blocked_range<std::size_t>(0, sheet.rows.size(), 256), [&](const auto& share) {
    Fingerprints fingerprints(sheet, context);
    for (std::size_t i = share.begin(); i < share.end(); ++i) {
      Row& row = sheet.rows[i];
      setState(sheet, row, *ofBrief[sheet.soundOf(row).brief], fingerprints);
    }
  });
}

}  // namespace octaphon
