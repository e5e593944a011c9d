#include "plan/row_states.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

#include <algorithm>

#include "base/decibels.h"
#include "base/unicode.h"
#include "plan/fingerprints.h"

namespace octaphon {
namespace {

/// What states have to say; taken away when they are looked at again.
constexpr RemarkCode kOfStates[]{
    RemarkCode::UnusableFolder, RemarkCode::ForeignFile, RemarkCode::ChangedFile, RemarkCode::Kept,
    RemarkCode::DamagedReceipt, RemarkCode::TailLimited, RemarkCode::AlikeOnDisk};

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

/// What is known of a row's length: that of its span's tail, and of its own trimming. A file that is up to
/// date has the length that its tail was heard to have, even where a sibling has changed since.
void setLength(const Sheet& sheet, Row& row, const FolderFacts& folder, Fingerprints& fingerprints) {
  const SpanEnds& ends = sheet.endsOf(row);
  row.extent = ends.most();
  row.start = sessionStart(ends.extent, row.extent);
  row.isMeasured = ends.isMeasured();
  if (!row.isMeasured) return;
  const RungOut& heard = sheet.briefOf(row).rungOut[sheet.soundOf(row).span];
  const bool isFixed = !sheet.spanOf(row).ringsOut;
  const bool isTailKnown = isFixed || heard.isKnown || (heard.isKept && row.state == RowState::UpToDate);
  const Frame tail = isFixed ? ends.limit : heard.tail;
  if (ends.isCutByHearing()) {
    const auto own = folder.measured.find(sheet.keyOf(row));
    if (!isTailKnown || own == folder.measured.end()) return;
    if (own->second.sound != trimDigest(fingerprints.of(row, tail))) return;
    row.extent = extentOf(ends.extent, tail, own->second.kept);
  } else if (isTailKnown) {
    row.extent = extentOf(ends.extent, tail);
  } else {
    return;
  }
  row.isMeasured = false;
  row.start = sessionStart(ends.extent, row.extent);
}

/// What the receipt knows of the tails of a brief's spans.
void findTails(const Sheet& sheet, std::size_t index, const SignalContext& context, const FolderFacts& folder,
               std::vector<RungOut>& rungOut) {
  const PlannedBrief& brief = sheet.briefs[index];
  std::vector<const TappedSound*> first(brief.spans.size(), nullptr);
  for (std::size_t row = brief.firstRow; row < brief.firstRow + brief.rowCount; ++row) {
    const TappedSound& sound = sheet.soundOf(sheet.rows[row]);
    if (first[sound.span] == nullptr) first[sound.span] = &sound;
  }
  tbb::parallel_for(std::size_t{0}, brief.spans.size(), [&](std::size_t span) {
    rungOut[span] = {};
    if (!brief.spans[span].ringsOut || first[span] == nullptr) return;
    const auto found = folder.measured.find(sheet.spanKeyOf(index, span));
    if (found == folder.measured.end()) return;
    const Measured& measured = found->second;
    const bool isKnown = measured.sound == Fingerprints(sheet, context).tailOf(*first[span]);
    rungOut[span] = {isKnown, true, std::min(measured.tail, brief.spans[span].tail), measured.byLimit,
                     measured.leftDb};
  });
}

void setState(const Sheet& sheet, Row& row, const FolderFacts& folder, Fingerprints& fingerprints) {
  removeRemarksOfStates(row.remarks);
  if (const Error* problem = folder.problemOf(row.file))
    row.remarks.push_back({Severity::Fault, RemarkCode::UnusableFolder, row.file, problem->describe()});
  row.state = stateOf(sheet, row, folder, fingerprints);
  setLength(sheet, row, folder, fingerprints);
  addRemark(sheet, row);
  if (const auto alike = folder.alike.find(row.file); alike != folder.alike.end())
    row.remarks.push_back(
        {Severity::Warning, RemarkCode::AlikeOnDisk, row.file,
         "There is " + printable(alike->second, 120) +
             " in the folder, which is the same name where letter case does not count. Rename one "
             "of them, or take the other file away"});
  const RungOut& heard = sheet.briefOf(row).rungOut[sheet.soundOf(row).span];
  if (heard.isKnown && heard.byLimit) row.remarks.push_back(tailLimitedRemark(sheet, row, heard));
}

}  // namespace

Remark tailLimitedRemark(const Sheet& sheet, const Row& row, const RungOut& rungOut) {
  return {Severity::Warning, RemarkCode::TailLimited, row.file,
          "The tail was stopped by its limit after " + timeText(rungOut.tail, sheet.rate) + ", at " +
              decibelText(rungOut.leftDb) + " dBFS. Allow a longer one, or raise the threshold"};
}

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
  for (std::size_t i = 0; i < sheet.briefs.size(); ++i)
    findTails(sheet, i, context, *ofBrief[i], sheet.briefs[i].rungOut);
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
