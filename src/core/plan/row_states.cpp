#include "plan/row_states.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <unordered_map>

#include "base/decibels.h"
#include "base/unicode.h"
#include "plan/fingerprints.h"
#include "plan/gain_sets.h"
#include "plan/level_remarks.h"
#include "plan/row_levels.h"

namespace octaphon {
namespace {

/// What states have to say; taken away when they are looked at again.
constexpr RemarkCode kOfStates[]{
    RemarkCode::UnusableFolder, RemarkCode::ForeignFile,    RemarkCode::ChangedFile,
    RemarkCode::Kept,           RemarkCode::DamagedReceipt, RemarkCode::TailLimited,
    RemarkCode::AlikeOnDisk,    RemarkCode::EarlierEdition, RemarkCode::Stopped,
    RemarkCode::RenamedFile,    RemarkCode::LevelNotJudged, RemarkCode::LevelNotReached};

void removeRemarksOfStates(std::vector<Remark>& remarks) {
  std::erase_if(remarks, [](const Remark& remark) {
    return std::find(std::begin(kOfStates), std::end(kOfStates), remark.code) != std::end(kOfStates);
  });
}

int editionOf(const ReceiptLine& line) { return std::max(1, line.edition); }

/// Whether a file belongs to a delivery that was before the one that is planned.
bool isOfEarlierEdition(const PlannedBrief& brief, const ReceiptLine& line) {
  return line.brief() == brief.brief.id && editionOf(line) < brief.edition.version;
}

bool soundsAlike(const Fingerprint& a, const Fingerprint& b) {
  return a.sound == b.sound && a.form == b.form;
}

/// The file of ours, of this edition, that has a row's sound, whatever its name; null where there is none.
const std::string* fileWithSound(const Sheet& sheet, const Row& row, const std::string& key,
                                 const Fingerprint& print, const FolderFacts& folder) {
  const auto own = folder.byKey.find(key);
  if (own == folder.byKey.end()) return nullptr;
  const std::string* alike = nullptr;
  for (const std::string& file : own->second) {
    const ReceiptLine& line = *folder.files.at(file).line;
    if (file == row.file || isOfEarlierEdition(sheet.briefOf(row), line)) continue;
    if (line.fingerprint == print) return &file;
    if (alike == nullptr && soundsAlike(line.fingerprint, print)) alike = &file;
  }
  return alike;
}

std::shared_ptr<const MadeLevel> madeLevelOf(const ReceiptLine& line) {
  return std::make_shared<const MadeLevel>(MadeLevel{line.gainDb, line.levels.value_or(Levels{})});
}

/// Of a row whose file, or one with its sound, may be there.
RowState stateFromFile(const Sheet& sheet, Row& row, const FolderFacts& folder, Fingerprints& fingerprints) {
  const FoundFile* found = folder.find(row.file);
  if (found != nullptr && found->verdict == FileVerdict::Foreign) return RowState::Foreign;
  if (found != nullptr && found->verdict == FileVerdict::Changed) return RowState::Changed;
  const std::string key = sheet.keyOf(row);
  const bool isOwn = found != nullptr && found->line->key == key;
  if (!isOwn && !folder.byKey.contains(key)) return found == nullptr ? RowState::ToMake : RowState::Stale;
  // A gain that is not known is still that which the file was made with.
  const bool isGainKnown = sheet.gainSetOf(sheet.soundOf(row)).gainDb.has_value();
  const Fingerprint print =
      fingerprints.of(row, {}, isGainKnown || !isOwn ? std::nullopt : std::optional(found->line->gainDb));
  if (isOwn) row.made = madeLevelOf(*found->line);
  if (isOwn && found->line->fingerprint == print) return RowState::UpToDate;
  if (const std::string* other = fileWithSound(sheet, row, key, print, folder)) {
    row.from = *other;
    row.made = madeLevelOf(*folder.files.at(*other).line);
    return RowState::Renamed;
  }
  if (!isOwn) return found == nullptr ? RowState::ToMake : RowState::Stale;
  if (!soundsAlike(found->line->fingerprint, print)) return RowState::Stale;
  if (found->line->fingerprint.tags == print.tags) return RowState::OlderEngine;
  row.from = row.file;  // what it says of itself is written anew
  return RowState::Stale;
}

RowState stateOf(const Sheet& sheet, Row& row, const FolderFacts& folder, Fingerprints& fingerprints) {
  if (row.isHeldBack) return RowState::HeldBack;
  if (sheet.faultOf(row) != nullptr) return RowState::Fault;
  return stateFromFile(sheet, row, folder, fingerprints);
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
    case RowState::Renamed:
      if (!row.isUnfinished())
        row.remarks.push_back({Severity::Warning, RemarkCode::RenamedFile, row.file,
                               "Its file gets this name instead of " + printable(row.from, 200) +
                                   ". What refers to the old name will not find it any more"});
      return;
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
  const bool isAsMade =
      row.state == RowState::UpToDate || row.state == RowState::OlderEngine || !row.from.empty();
  const bool isTailKnown = isFixed || heard.isKnown || (heard.isKept && isAsMade);
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
               const RowData& data, std::vector<RungOut>& rungOut) {
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
    const bool isKnown = measured.sound == Fingerprints(sheet, data, context).tailOf(*first[span]);
    rungOut[span] = {isKnown, true, std::min(measured.tail, brief.spans[span].tail), measured.byLimit,
                     measured.leftDb};
  });
}

/// What the receipts know of the levels of sounds.
void findLevels(Sheet& sheet, const SignalContext& context, const std::vector<const FolderFacts*>& ofBrief,
                const RowData& data) {
  tbb::parallel_for(tbb::blocked_range<std::size_t>(0, sheet.sounds.size(), 64), [&](const auto& share) {
    Fingerprints fingerprints(sheet, data, context);
    for (std::size_t i = share.begin(); i < share.end(); ++i) {
      TappedSound& sound = sheet.sounds[i];
      sound.levels.reset();
      const Row& lead = sheet.leadOf(sound);
      const auto& measured = ofBrief[sound.brief]->measured;
      const auto found = measured.find(levelKeyOf(sheet, lead));
      if (found != measured.end() && found->second.levels &&
          found->second.sound == fingerprints.levelOf(lead))
        sound.levels = found->second.levels;
    }
  });
  findGains(sheet);
}

void addEarlierEdition(const Sheet& sheet, Row& row, const FolderFacts& folder) {
  const FoundFile* found = folder.find(row.file);
  if (found == nullptr || found->line == nullptr || row.isHeldBack) return;
  const PlannedBrief& brief = sheet.briefOf(row);
  if (!isOfEarlierEdition(brief, *found->line)) return;
  row.remarks.push_back({Severity::Fault, RemarkCode::EarlierEdition, row.file,
                         "This name has a file of edition " + std::to_string(editionOf(*found->line)) +
                             ", which stays as it is. Put {edition.version} or {edition.date} into the names "
                             "of the brief or its folder"});
}

void setState(const Sheet& sheet, Row& row, const FolderFacts& folder, Fingerprints& fingerprints) {
  removeRemarksOfStates(row.remarks);
  row.from.clear();
  row.made.reset();
  row.apart = 0;
  addEarlierEdition(sheet, row, folder);
  if (const Error* problem = folder.problemOf(row.file))
    row.remarks.push_back({Severity::Fault, RemarkCode::UnusableFolder, row.file, problem->describe()});
  row.state = stateOf(sheet, row, folder, fingerprints);
  setLength(sheet, row, folder, fingerprints);
  if (row.isMeasured && !row.from.empty()) {  // what would stand in it is not known
    row.from.clear();
    row.state = folder.find(row.file) == nullptr ? RowState::ToMake : RowState::Stale;
  }
  if (const auto alike = folder.alike.find(row.file); alike != folder.alike.end())
    row.remarks.push_back(
        {Severity::Warning, RemarkCode::AlikeOnDisk, row.file,
         "There is " + printable(alike->second, 120) +
             " in the folder, which is the same name where letter case does not count. Rename one "
             "of them, or take the other file away"});
  const RungOut& heard = sheet.briefOf(row).rungOut[sheet.soundOf(row).span];
  if (heard.isKnown && heard.byLimit) row.remarks.push_back(tailLimitedRemark(sheet, row, heard));
  if (const auto& gain = sheet.gainSetOf(sheet.soundOf(row)).found)
    for (Remark& remark : gainRemarks(sheet, row, *gain)) row.remarks.push_back(std::move(remark));
}

/// What stands beside the files of a sheet's briefs, and what follows from that for its rows.
class FolderReporter {
 public:
  FolderReporter(Sheet& sheet, const std::map<FolderPath, FolderFacts>& folders)
      : sheet_(sheet), folders_(folders) {
    for (const Row& row : sheet.rows)
      if (const FolderFacts* facts = factsOf(row); facts != nullptr && !facts->files.empty()) {
        rows_[facts].byFile.emplace(row.file, &row);
        if (row.state == RowState::Renamed || row.state == RowState::HeldBack)
          rows_[facts].byKey.emplace(sheet.keyOf(row), &row);
      }
  }

  void report() {
    for (Row& row : sheet_.rows)
      if (row.state == RowState::Renamed) settleMove(row);
    for (PlannedBrief& brief : sheet_.briefs) stopWhereFilesAre(brief);
    sheet_.folders.clear();
    for (const auto& [base, facts] : folders_) sheet_.folders.push_back(reportOf(base, facts));
  }

 private:
  struct RowsOfFolder {
    std::unordered_map<std::string_view, const Row*> byFile;
    std::unordered_map<std::string, const Row*> byKey;  // renamed ones, and those that are held back
  };

  const FolderFacts* factsOf(const Row& row) const {
    const auto found = folders_.find(sheet_.briefOf(row).base);
    return found == folders_.end() ? nullptr : &found->second;
  }

  /// A file that has the name by now has to give way: it moves too, or may be replaced.
  void settleMove(Row& row) {
    const FolderFacts& facts = *factsOf(row);
    const FoundFile* there = facts.find(row.file);
    if (there == nullptr) return;
    const auto other = rows_[&facts].byKey.find(there->line->key);
    const bool givesWay = other != rows_[&facts].byKey.end() && other->second->from == row.file;
    if (givesWay || sheet_.briefOf(row).brief.delivery.existing == Existing::Replace) return;
    row.from.clear();
    row.state = RowState::Stale;
  }

  void stopWhereFilesAre(PlannedBrief& brief) {
    brief.isStopped = false;
    if (brief.brief.delivery.existing != Existing::Stop) return;
    for (std::size_t i = brief.firstRow; i < brief.firstRow + brief.rowCount; ++i) {
      Row& row = sheet_.rows[i];
      if (row.state != RowState::Stale && row.state != RowState::Changed && row.state != RowState::Foreign)
        continue;
      brief.isStopped = true;
      row.remarks.push_back({Severity::Warning, RemarkCode::Stopped, row.file,
                             "A file is there that is not as planned, and the brief stops then: it makes "
                             "none of its files. Choose 'replace' or 'keep', or take the file away"});
    }
  }

  SheetFolder reportOf(const FolderPath& base, const FolderFacts& facts) {
    SheetFolder folder{base, {}, {}, facts.foreign, {}};
    const RowsOfFolder& rows = rows_[&facts];
    for (const auto& [file, found] : facts.files) {
      if (found.line == nullptr || rows.byFile.contains(file) || !isLeftOver(rows, *found.line, file))
        continue;
      if (found.verdict == FileVerdict::Changed)
        folder.changed.push_back(file);
      else
        folder.leftOver.push_back({file, found.line->key});
    }
    std::sort(folder.leftOver.begin(), folder.leftOver.end(),
              [](const auto& a, const auto& b) { return a.file < b.file; });
    std::sort(folder.changed.begin(), folder.changed.end());
    findSameSound(rows, facts, folder);
    return folder;
  }

  /// Files of one sound in several formats are meant to.
  void findSameSound(const RowsOfFolder& rows, const FolderFacts& facts, SheetFolder& folder) const {
    std::map<Digest, std::map<std::uint32_t, std::string>> bySamples;  // then a file for each sound
    for (const auto& [file, row] : rows.byFile) {
      const FoundFile* found = facts.find(std::string(file));
      const bool isOwn = found != nullptr && found->verdict == FileVerdict::Ours &&
                         (row->state == RowState::UpToDate || row->state == RowState::OlderEngine);
      if (!isOwn || found->line->samples.empty()) continue;
      std::string& first = bySamples[found->line->samples][row->sound];
      if (first.empty() || row->file < first) first = row->file;
    }
    for (const auto& [samples, sounds] : bySamples) {
      if (sounds.size() < 2) continue;
      std::vector<std::string>& files = folder.sameSound.emplace_back();
      for (const auto& [sound, file] : sounds) files.push_back(file);
    }
    std::sort(folder.sameSound.begin(), folder.sameSound.end());
  }

  /// Of this edition and session, and not planned any more.
  bool isLeftOver(const RowsOfFolder& rows, const ReceiptLine& line, const std::string& file) const {
    if (line.file != file) return false;  // unfinished
    const std::string id = line.brief();
    const auto brief = std::find_if(sheet_.briefs.begin(), sheet_.briefs.end(),
                                    [&](const PlannedBrief& planned) { return planned.brief.id == id; });
    if (!line.session.empty() && line.session != sheet_.sessionFile) return false;
    if (brief == sheet_.briefs.end()) return !sheet_.otherBriefs.contains(id) && isNewest(line);
    if (editionOf(line) != brief->edition.version) return false;
    const auto row = rows.byKey.find(line.key);
    if (row == rows.byKey.end()) return true;
    return row->second->state == RowState::Renamed && row->second->from != file;
  }

  /// Of a brief that has gone.
  bool isNewest(const ReceiptLine& line) const {
    for (const auto& [base, facts] : folders_) {
      const auto edition = facts.receipt->editions().find(line.brief());
      if (edition != facts.receipt->editions().end() && editionOf(line) != edition->second.version)
        return false;
    }
    return true;
  }

  Sheet& sheet_;
  const std::map<FolderPath, FolderFacts>& folders_;
  std::map<const FolderFacts*, RowsOfFolder> rows_;
};

}  // namespace

bool isAboutFolder(RemarkCode code) {
  using enum RemarkCode;
  constexpr RemarkCode kAboutFolder[]{AlikeOnDisk, ChangedFile, DamagedReceipt, EarlierEdition, ForeignFile,
                                      Kept,        RenamedFile, Stopped,        UnusableFolder};
  return std::find(std::begin(kAboutFolder), std::end(kAboutFolder), code) != std::end(kAboutFolder);
}

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
    if (ofBrief.back()->receipt->damagedLines() > 0)
      brief.remarks.push_back(
          {Severity::Warning, RemarkCode::DamagedReceipt, brief.base.full().string(),
           "Lines of the receipt in this folder cannot be read; files they speak of count as foreign"});
  }
  const RowData data(sheet, context.session(), context.tree());
  for (std::size_t i = 0; i < sheet.briefs.size(); ++i)
    findTails(sheet, i, context, *ofBrief[i], data, sheet.briefs[i].rungOut);
  findLevels(sheet, context, ofBrief, data);
  // In shares, each with recipes of its own.
  tbb::parallel_for(tbb::blocked_range<std::size_t>(0, sheet.rows.size(), 256), [&](const auto& share) {
    Fingerprints fingerprints(sheet, data, context);
    for (std::size_t i = share.begin(); i < share.end(); ++i) {
      Row& row = sheet.rows[i];
      setState(sheet, row, *ofBrief[sheet.soundOf(row).brief], fingerprints);
    }
  });
  FolderReporter(sheet, folders).report();
  for (Row& row : sheet.rows) addRemark(sheet, row);
  findApart(sheet);
}

}  // namespace octaphon
