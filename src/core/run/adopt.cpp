#include "run/adopt.h"

#include <algorithm>
#include <map>
#include <set>

#include "formats/file_facts.h"
#include "ledger/receipt_journal.h"
#include "plan/fingerprints.h"
#include "plan/row_data.h"
#include "run/live_sheet.h"
#include "run/row_output.h"

namespace octaphon {
namespace {

/// A file that says which row it is of.
struct Marked {
  std::size_t row = 0;
  std::string file;
  FileFacts facts;
};

class Adoption {
 public:
  Adoption(const Session& session, const MediaFacts& facts, PlanRequest request,
           const PluginCatalogue* plugins)
      : session_(session), facts_(facts), request_(std::move(request)), plugins_(plugins) {}

  Result<std::vector<Adopted>> run() {
    sheet_ = planWithStates(session_, facts_, request_, plugins_);
    std::map<FolderPath, std::vector<Marked>> found = markedFiles();
    if (takeEditions(found)) sheet_ = planWithStates(session_, facts_, request_, plugins_);
    for (const auto& [base, files] : found) OCTAPHON_TRY(enter(base, files));
    return std::move(adopted_);
  }

 private:
  /// Of each base folder, those that no receipt knows; of each row one.
  std::map<FolderPath, std::vector<Marked>> markedFiles() const {
    std::map<FolderPath, std::map<std::string, std::size_t>> rows;  // by mark
    std::map<FolderPath, std::vector<std::string>> files;
    for (std::size_t i = 0; i < sheet_.rows.size(); ++i) {
      const Row& row = sheet_.rows[i];
      const FolderPath& base = sheet_.briefOf(row).base;
      if (row.state == RowState::Foreign) files[base].push_back(row.file);  // its own name comes first
      if (row.state == RowState::ToMake || row.state == RowState::Foreign)
        rows[base][rowMarkOf(sheet_.keyOf(row))] = i;
    }
    for (const SheetFolder& folder : sheet_.folders)
      for (const std::string& file : folder.foreign)
        if (!file.ends_with('/')) files[folder.base].push_back(file);
    std::map<FolderPath, std::vector<Marked>> found;
    for (const auto& [base, names] : files) {
      const auto folder = SafeFolder::open(base, false);
      if (!folder) continue;
      for (const std::string& name : names)
        if (auto marked = markedIn(*folder, name, rows[base])) found[base].push_back(std::move(*marked));
    }
    return found;
  }

  /// A row that has its file is not looked for any more.
  static std::optional<Marked> markedIn(const SafeFolder& folder, const std::string& name,
                                        std::map<std::string, std::size_t>& rows) {
    const auto file = folder.openFile(name);
    const auto stamp = file ? stampOf(file->get()) : std::nullopt;
    if (!stamp) return std::nullopt;
    auto facts = readFileFacts(bytesOfFile(file->get(), stamp->size), name);
    const auto row = facts ? rows.find(facts->rowMark()) : rows.end();
    if (row == rows.end()) return std::nullopt;
    Marked marked{row->second, name, std::move(*facts)};
    rows.erase(row);
    return marked;
  }

  /// What files say is the day of an edition that no receipt knows. Whether there is any.
  bool takeEditions(const std::map<FolderPath, std::vector<Marked>>& found) {
    bool isAny = false;
    for (const auto& [base, files] : found)
      for (const Marked& marked : files) {
        const PlannedBrief& brief = sheet_.briefOf(sheet_.rows[marked.row]);
        if (brief.isBegun || request_.editions.contains(brief.brief.id)) continue;
        for (const auto& [name, value] : marked.facts.tags())
          if (const auto date = name == "date" ? parseDate(value) : std::nullopt) {
            Edition edition = brief.edition;
            edition.date = *date;
            request_.editions[brief.brief.id] = std::move(edition);
            isAny = true;
          }
      }
    return isAny;
  }

  Result<> enter(const FolderPath& base, const std::vector<Marked>& files) {
    OCTAPHON_ASSIGN(const SafeFolder folder, SafeFolder::open(base, false));
    OCTAPHON_ASSIGN(ReceiptJournal journal, ReceiptJournal::open(folder));
    const SessionContext context(session_, facts_, plugins_);
    const RowData data(sheet_, session_, context.signal.tree());
    Fingerprints prints(sheet_, data, context.signal);
    std::vector<ReceiptLine> lines;
    std::vector<Measured> measured;
    std::set<std::string> briefs;
    for (const Marked& marked : files) {
      const Row& row = sheet_.rows[marked.row];
      const PlannedBrief& brief = sheet_.briefOf(row);
      if (briefs.insert(brief.brief.id).second && !journal.receipt().editions().contains(brief.brief.id))
        OCTAPHON_TRY(journal.begin(brief.edition));
      const auto line = lineOfFile(folder, marked, prints, data, measured);
      if (!line) continue;
      adopted_.push_back({marked.file, line->key, line->fingerprint != Fingerprint{}});
      lines.push_back(*line);
    }
    return journal.append(lines, true, measured);
  }

  /// Frames of the session that the tail of a file has, by the file's length.
  std::optional<Frame> tailOf(const Row& row, const FileFacts& facts) const {
    const SpanEnds& ends = sheet_.endsOf(row);
    if (!row.isMeasured || ends.isCutByHearing() || !facts.frames || facts.rate <= 0) return std::nullopt;
    const Frame frames = atRate(*facts.frames, facts.rate, row.rate) - ends.extent.silence;
    const Frame tail = atRate(frames - row.extent.leadIn - row.extent.body, row.rate, sheet_.rate);
    return std::max<Frame>(0, tail);
  }

  std::optional<ReceiptLine> lineOfFile(const SafeFolder& folder, const Marked& marked, Fingerprints& prints,
                                        const RowData& data, std::vector<Measured>& measured) const {
    const Row& row = sheet_.rows[marked.row];
    const auto file = folder.openFile(marked.file);
    const auto stamp = file ? stampOf(file->get()) : std::nullopt;
    if (!stamp || marked.facts.soundAt > stamp->size) return std::nullopt;
    const auto content = digestOf(file->get(), marked.file, marked.facts.soundAt);
    if (!content) return std::nullopt;
    const std::optional<Frame> tail = tailOf(row, marked.facts);
    Fingerprint print = prints.of(row, tail);
    const bool isAsPlanned = madeMarkOf(print) == marked.facts.madeMark();
    if (!isAsPlanned) print = {};
    // Its data are written anew where they are not as planned.
    else if (!saysTheSame(file->get(), writtenForm(row, marked, tail),
                          data.of(row, extentOf(row, tail), print)))
      print.tags = {};
    if (isAsPlanned && tail)
      measured.push_back({sheet_.spanKeyOf(sheet_.soundOf(row).brief, sheet_.soundOf(row).span),
                          prints.tailOf(sheet_.soundOf(row)),
                          *tail,
                          false,
                          0,
                          {}});
    ReceiptLine line = lineOf(sheet_, row, print);
    line.file = marked.file;
    line.content = *content;
    line.head = marked.facts.soundAt;
    line.stamp = *stamp;
    return line;
  }

  Extent extentOf(const Row& row, std::optional<Frame> tail) const {
    return tail ? octaphon::extentOf(sheet_.endsOf(row).extent, *tail) : row.extent;
  }
  WrittenForm writtenForm(const Row& row, const Marked& marked, std::optional<Frame> tail) const {
    return {sheet_.formOf(row), extentOf(row, tail).frames(), marked.facts.soundAt};
  }

  const Session& session_;
  const MediaFacts& facts_;
  PlanRequest request_;
  const PluginCatalogue* plugins_;
  Sheet sheet_;
  std::vector<Adopted> adopted_;
};

}  // namespace

Result<std::vector<Adopted>> adoptFiles(const Session& session, const MediaFacts& facts,
                                        const PlanRequest& request, const PluginCatalogue* plugins) {
  return Adoption(session, facts, request, plugins).run();
}

}  // namespace octaphon
