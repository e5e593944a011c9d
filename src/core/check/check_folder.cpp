#include "check/check_folder.h"

#include <algorithm>
#include <unordered_map>

#include "base/in_parallel.h"
#include "base/log.h"
#include "base/unicode.h"
#include "check/file_sum.h"
#include "check/group_findings.h"
#include "ledger/folder_listing.h"

namespace octaphon {
namespace {

using Line = ReceiptLine;

FileFinding notMade(const std::string& file, const std::string& key) {
  return findingAbout(file, key, FindingCode::Missing, "was not made yet");
}

/// One delivery on its way through the checks.
class Check {
 public:
  Check(const CheckRequest& request, JobControl* job, SafeFolder folder, FolderFacts facts)
      : request_(request), job_(job), folder_(std::move(folder)), facts_(std::move(facts)) {
    report_.receipt = facts_.receipt;
  }

  CheckReport run() {
    chooseFiles();
    expectParts(job_, report_.files.size());
    inParallel(report_.files.size(), [&](std::size_t i) { read(report_.files[i]); });
    readForeign();
    judgeFiles();
    judgeSums();
    for (FileFinding& finding : siblingFindings(report_.files)) add(std::move(finding));
    accept();
    std::stable_sort(report_.findings.begin(), report_.findings.end(),
                     [](const FileFinding& a, const FileFinding& b) {
                       return std::pair(a.file, a.code) < std::pair(b.file, b.code);
                     });
    report_.isStopped = isStopped(job_);
    return std::move(report_);
  }

 private:
  bool isAsked(const Line& line) const {
    return request_.briefs.empty() || request_.briefs.contains(line.brief());
  }

  bool isThere(const std::string& file) const { return facts_.find(file) != nullptr; }

  /// A line of a file that counts: what lies there, else the last one.
  const Line& lineOf(const std::string& file, const std::vector<Line>& lines) const {
    const FoundFile* found = facts_.find(file);
    return found != nullptr && found->line != nullptr ? *found->line : lines.back();
  }

  /// Of each row and edition one file: that which is there, and was made last. Others of it are left over.
  void chooseFiles() {
    std::map<std::pair<std::string, int>, std::vector<const Line*>> byRow;
    std::set<std::string> delivered;
    for (const auto& [file, lines] : facts_.receipt->byFile()) {
      const Line& line = lineOf(file, lines);
      const bool isGone = facts_.receipt->isRemoved(file) && !isThere(file);
      if (isAsked(line) && !isGone) byRow[{line.key, line.edition}].push_back(&line);
    }
    for (auto& [row, lines] : byRow) {
      const auto& [key, edition] = row;
      const auto planned = request_.planned.find(key);
      const bool isNewest = isNewestEdition(key, edition);
      const auto rank = [&](const Line* line) {
        const bool isPlanned = planned != request_.planned.end() && planned->second == line->file;
        return std::tuple(isNewest && isPlanned, isThere(line->file), line->stamp.changed, line->file);
      };
      std::sort(lines.begin(), lines.end(), [&](const Line* a, const Line* b) { return rank(a) > rank(b); });
      const bool isWanted = !isNewest || planned != request_.planned.end() || !mayBeLeftOver(*lines.front());
      if (isNewest) delivered.insert(key);
      if (isWanted) report_.files.push_back(fileOf(*lines.front()));
      for (std::size_t i = isWanted ? 1 : 0; i < lines.size(); ++i)
        if (isThere(lines[i]->file)) leftOver(*lines[i]);
    }
    std::sort(report_.files.begin(), report_.files.end(),
              [](const CheckedFile& a, const CheckedFile& b) { return a.name < b.name; });
    for (const auto& [key, file] : request_.planned)
      if (request_.expectsAll && !delivered.contains(key)) add(notMade(file, key));
  }

  CheckedFile fileOf(const Line& line) const {
    CheckedFile file{line.file, &line, madeFileIn(line.made)};
    file.isDecoded = request_.decodes || line.content.empty();  // without a hash only the sound tells
    const FoundFile* found = facts_.find(line.file);
    const bool isOurs = found != nullptr && found->verdict == FileVerdict::Ours && !line.content.empty();
    file.isTrusted = request_.reads && !request_.reads->has(line.file) && isOurs && file.made;
    return file;
  }

  /// Of a brief whose plan is known, and of no other session that delivers into the folder.
  bool mayBeLeftOver(const Line& line) const {
    return request_.plannedBriefs.contains(line.brief()) &&
           (line.session.empty() || line.session == request_.session);
  }

  bool isNewestEdition(const std::string& key, int edition) const {
    const auto& editions = facts_.receipt->editions();
    const auto found = editions.find(key.substr(0, key.find('/')));
    return found == editions.end() || edition == 0 || found->second.version == edition;
  }

  void leftOver(const Line& line) {
    add(findingAbout(line.file, line.key, FindingCode::LeftOver,
                     "is of an earlier delivery, and asked for no more"));
  }

  static bool hasSeam(const CheckedFile& file) { return file.made && file.made->seam; }

  ReadBackAsked askedOf(const CheckedFile& file) const {
    ReadBackAsked asked = readBackAskedOf(file.made ? file.made->ceilingDb : std::nullopt,
                                          file.made ? file.made->lufs : std::nullopt);
    asked.measures = asked.measures.with({request_.measures, request_.measures});
    asked.decodes = file.isDecoded;
    asked.seam = request_.measures && hasSeam(file) && asked.decodes;
    asked.wave = request_.wave;
    return asked;
  }

  void read(CheckedFile& file) {
    if (isStopped(job_)) return;
    if (isThere(file.name) && !file.isTrusted) {
      ReadBackAsked asked = askedOf(file);
      if (request_.reads)
        if (auto kept = request_.reads->of(folder_, file.name, asked)) file.read.emplace(std::move(*kept));
      if (!file.read) file.read = readBack(folder_, file.name, asked, {job_});
      if (!asked.seam && hasSeam(file) && asked.decodes && file.there() != nullptr && !file.isSameBytes()) {
        asked.seam = true;
        file.read = readBack(folder_, file.name, asked, {job_});
      }
      if (!*file.read && file.read->error().code == ErrorCode::NotFound) file.read.reset();
    }
    finishPart(job_);
  }

  /// Files that nobody delivered: where some are missing, they may be among them under other names.
  void readForeign() {
    strangers_.resize(facts_.foreign.size());
    if (std::none_of(report_.files.begin(), report_.files.end(),
                     [](const CheckedFile& file) { return !file.read && !file.isTrusted; }))
      return;
    expectParts(job_, strangers_.size());
    inParallel(strangers_.size(), [&](std::size_t i) {
      if (isStopped(job_)) return;
      if (!facts_.foreign[i].ends_with('/'))
        if (auto read = readBack(folder_, facts_.foreign[i], {}, {job_})) strangers_[i] = std::move(*read);
      finishPart(job_);
    });
  }

  void judgeFiles() {
    std::set<std::size_t> known;  // strangers that are ours
    for (const CheckedFile& file : report_.files) {
      if (isStopped(job_) && !file.read) continue;
      const bool isItself =
          file.isTrusted || (file.there() != nullptr && (file.isSameBytes() || file.soundsAsMade()));
      if (!isItself && (takeRenamed(file, known) || takeSwapped(file))) continue;
      for (FileFinding& finding : findingsOf(file)) add(std::move(finding));
    }
    for (std::size_t i = 0; i < strangers_.size(); ++i)
      if (!known.contains(i) && request_.briefs.empty())
        add(findingAbout(facts_.foreign[i], {}, FindingCode::Foreign,
                         "is none of the files that were delivered"));
  }

  bool takeRenamed(const CheckedFile& file, std::set<std::size_t>& known) {
    if (file.read) return false;
    for (std::size_t i = 0; i < strangers_.size(); ++i) {
      if (!strangers_[i] || known.contains(i) || !isHeldBy(file, *strangers_[i])) continue;
      known.insert(i);
      add(findingAbout(file.name, file.line->key, FindingCode::Renamed,
                       "is there as " + printable(facts_.foreign[i], 400), facts_.foreign[i], file.name));
      return true;
    }
    return false;
  }

  /// Whether another file of the delivery has what this one should.
  bool takeSwapped(const CheckedFile& file) {
    const ReadBack* there = file.there();
    if (there == nullptr) return false;
    const auto holds = [&](const CheckedFile& other) { return &other != &file && isHeldBy(other, *there); };
    const auto owner = std::find_if(report_.files.begin(), report_.files.end(), holds);
    if (owner == report_.files.end()) return false;
    add(findingAbout(file.name, file.line->key, FindingCode::Swapped,
                     "holds what " + printable(owner->name, 400) + " should hold", owner->name, file.name));
    return true;
  }

  /// Layers whose files are all there, and of the length that they were made.
  void judgeSums() {
    std::unordered_map<std::string, std::vector<const CheckedFile*>> layers;
    std::vector<const CheckedFile*> mixes;
    for (const CheckedFile& file : report_.files) {
      if (!file.made || !(file.isTrusted || isWhole(file))) continue;
      if (!file.made->addsTo.empty()) layers[file.made->addsTo].push_back(&file);
      if (file.made->layers > 0) mixes.push_back(&file);
    }
    std::vector<std::optional<FileFinding>> found(mixes.size());
    inParallel(mixes.size(), [&](std::size_t i) {
      const auto parts = layers.find(mixes[i]->line->key);
      const bool isComplete =
          parts != layers.end() && parts->second.size() == static_cast<std::size_t>(mixes[i]->made->layers);
      const bool isAnyNew =
          isComplete &&
          (!mixes[i]->isTrusted || std::any_of(parts->second.begin(), parts->second.end(),
                                               [](const CheckedFile* part) { return !part->isTrusted; }));
      if (isAnyNew && !isStopped(job_)) found[i] = judgedSum(*mixes[i], parts->second);
    });
    for (std::optional<FileFinding>& finding : found)
      if (finding) add(std::move(*finding));
  }

  static bool isWhole(const CheckedFile& file) {
    const ReadBack* there = file.there();
    return there != nullptr && file.isDecoded && there->figures.frames == file.made->figures.frames &&
           there->facts.encoding == file.made->encoding && there->facts.rate == file.made->rate &&
           there->facts.channels == file.made->channels &&
           (!there->figures.isSilent() || file.made->figures.isSilent());
  }

  std::optional<FileFinding> judgedSum(const CheckedFile& mix,
                                       const std::vector<const CheckedFile*>& parts) const {
    std::vector<std::string> names;
    const CheckedFile* odd = nullptr;  // the one that is to blame, where one is
    std::size_t odds = 0;
    const auto look = [&](const CheckedFile& file) {
      if (isExplained(file)) return false;
      if (!file.soundsAsMade()) odd = &file, ++odds;
      return true;
    };
    if (!look(mix)) return std::nullopt;
    for (const CheckedFile* part : parts) {
      if (!look(*part)) return std::nullopt;
      names.push_back(part->name);
    }
    const EncodingInfo* encoding = encodingNamed(mix.made->encoding);
    if (encoding == nullptr) return std::nullopt;
    const auto sum = sumOf(folder_, names, mix.name, encoding->isInteger ? encoding->bits : 0);
    if (!sum || sum->addsUp()) return std::nullopt;
    const CheckedFile& blamed = odds == 1 ? *odd : mix;
    const std::string what = &blamed == &mix
                                 ? "is not what its " + counted(names.size(), "layer") + " add up to"
                                 : "keeps the layers from adding up to " + printable(mix.name, 400);
    return findingAbout(blamed.name, blamed.line->key, FindingCode::SumDiffers, what,
                        figureText(sum->residualDb, 1, "dBFS"),
                        "under " + figureText(sum->limitDb, 1, "dBFS"));
  }

  /// Whether something was found that tells why no sum can come out.
  bool isExplained(const CheckedFile& file) const {
    return std::any_of(report_.findings.begin(), report_.findings.end(), [&](const FileFinding& finding) {
      const bool isOfSound = findingInfo(finding.code).severity == Severity::Fault || !file.soundsAsMade();
      return finding.file == file.name && isOfSound && finding.code != FindingCode::Altered;
    });
  }

  void accept() {
    for (FileFinding& finding : report_.findings) {
      const std::string brief = finding.row.substr(0, finding.row.find('/'));
      const auto& known =
          request_.plannedBriefs.contains(brief) ? request_.accepted : facts_.receipt->accepted();
      const auto accepted = known.find(brief);
      if (accepted != known.end()) finding.accepted = reasonFor(finding, accepted->second);
    }
  }

  void add(FileFinding finding) { report_.findings.push_back(std::move(finding)); }

  const CheckRequest& request_;
  JobControl* job_;
  SafeFolder folder_;
  FolderFacts facts_;
  std::vector<std::optional<ReadBack>> strangers_;  // beside facts_.foreign
  CheckReport report_;
};

}  // namespace

std::size_t CheckReport::accepted() const {
  return static_cast<std::size_t>(
      std::count_if(findings.begin(), findings.end(),
                    [](const FileFinding& finding) { return finding.accepted.has_value(); }));
}

/// Where nothing was delivered, all that is asked for is missing.
static CheckReport nothingThere(const CheckRequest& request) {
  CheckReport report;
  report.receipt = std::make_shared<const Receipt>();
  if (!request.expectsAll) return report;
  for (const auto& [key, file] : request.planned) report.findings.push_back(notMade(file, key));
  return report;
}

Result<CheckReport> checkFolder(const CheckRequest& request, JobControl* job) {
  auto folder = SafeFolder::open(request.base, false);
  if (!folder && folder.error().code != ErrorCode::NotFound) return tl::unexpected(folder.error());
  FolderFacts facts = folder ? lookAtFolder(request.base, {}) : FolderFacts();
  if (!facts.receipt->byFile().empty()) {
    CheckReport report = Check(request, job, std::move(*folder), std::move(facts)).run();
    writeLog(LogLevel::Note, "checked " + counted(report.files.size(), "file") + ", found " +
                                 std::to_string(report.findings.size()));
    return report;
  }
  if (!request.planned.empty()) return nothingThere(request);
  return fail(ErrorCode::NotFound, request.base.full().string(),
              "there is no receipt, or nothing in it: nobody knows what was delivered here",
              "Give the folder that files were made into");
}

}  // namespace octaphon
