#include "handover/locate.h"

#include <algorithm>

#include "base/files.h"
#include "base/safe_folder.h"
#include "check/file_findings.h"
#include "check/read_back.h"
#include "handover/known_deliveries.h"
#include "ledger/receipt.h"
#include "ledger/row_mark.h"

namespace octaphon {
namespace {

namespace fs = std::filesystem;

constexpr std::string_view kFoundBy[]{"bytes", "mark", "sound"};

/// Folders with a receipt, from the file's own upwards.
void addAround(const fs::path& file, std::vector<fs::path>& folders) {
  std::error_code error;
  for (fs::path folder = file.parent_path();; folder = folder.parent_path()) {
    if (fs::is_regular_file(folder / kReceiptName, error)) folders.push_back(folder);
    if (folder == folder.root_path() || folder.empty()) return;
  }
}

/// The session's file: in the folder of the delivery or one around it.
fs::path sessionAround(const fs::path& folder, const std::string& name, const std::vector<fs::path>& known) {
  std::error_code error;
  if (name.empty()) return {};
  for (fs::path at = folder;; at = at.parent_path()) {
    if (fs::is_regular_file(at / name, error)) return at / name;
    if (at == at.root_path() || at.empty()) break;
  }
  const auto found = std::find_if(known.begin(), known.end(), [&](const fs::path& session) {
    return session.filename() == name && fs::is_regular_file(session, error);
  });
  return found == known.end() ? fs::path() : *found;
}

class Search {
 public:
  Search(const LocateRequest& request, ReadBack there, const JobControl* job)
      : request_(request), there_(std::move(there)), job_(job) {}

  /// The surest that any receipt gives; of several the newest.
  std::optional<Located> in(const std::vector<fs::path>& around, const std::vector<fs::path>& others) {
    for (const fs::path& folder : around) lookInto(folder, true);
    for (const fs::path& folder : others)
      if (std::find(around.begin(), around.end(), folder) == around.end()) lookInto(folder, false);
    return std::move(best_);
  }

 private:
  void lookInto(const fs::path& folder, bool isAround) {
    if (isStopped(job_)) return;
    const auto opened = SafeFolder::open(folder, false);
    if (!opened) return;
    const Receipt receipt = Receipt::load(*opened);
    for (const auto& [file, lines] : receipt.byFile())
      for (const ReceiptLine& line : lines)
        if (const auto by = recognised(line, isAround)) offer(*by, folder, receipt, line);
  }

  std::optional<FoundBy> recognised(const ReceiptLine& line, bool isAround) const {
    if (!line.content.empty() && line.content == there_.content) return FoundBy::Bytes;
    if (hasMarksOf(line, isAround)) return FoundBy::Mark;
    return isHeldBy({line.file, &line, madeFileIn(line.made)}, there_) ? std::optional(FoundBy::Sound)
                                                                       : std::nullopt;
  }

  /// Rows of other sessions may have the same mark: away from its folder the file has to be the very one.
  bool hasMarksOf(const ReceiptLine& line, bool isAround) const {
    const std::string mark = there_.facts.rowMark();
    if (mark.empty() || mark != rowMarkOf(line.key)) return false;
    return isAround || there_.facts.madeMark() == madeMarkOf(line.fingerprint);
  }

  void offer(FoundBy by, const fs::path& folder, const Receipt& receipt, const ReceiptLine& line) {
    const auto rank = std::pair(-static_cast<int>(by), line.stamp.changed);
    if (best_ && rank <= rank_) return;
    rank_ = rank;
    Located found;
    found.by = by;
    found.folder = folder;
    found.sessionName = line.session;
    found.session = sessionAround(folder, line.session, request_.sessions);
    const auto words = receipt.briefs().find(line.brief());
    found.brief =
        words == receipt.briefs().end() || words->second.name.empty() ? line.brief() : words->second.name;
    found.key = line.key;
    found.file = line.file;
    found.edition = line.edition;
    if (auto made = madeFileIn(line.made)) found.made = std::move(*made);
    CheckedFile delivered{line.file, &line, found.made};
    delivered.read = there_;
    found.isAsDelivered = by != FoundBy::Mark || delivered.soundsAsMade();
    best_ = std::move(found);
  }

  const LocateRequest& request_;
  ReadBack there_;
  const JobControl* job_;
  std::optional<Located> best_;
  std::pair<int, std::int64_t> rank_;
};

}  // namespace

std::string_view foundByName(FoundBy by) { return kFoundBy[static_cast<std::size_t>(by)]; }

void addKnownDeliveries(LocateRequest& request) {
  for (const KnownDelivery& known : knownDeliveries()) {
    request.deliveries.push_back(known.folder);
    request.sessions.push_back(known.session);
  }
}

Result<std::optional<Located>> locate(const LocateRequest& request, JobControl* job) {
  const fs::path file = absoluteOf(request.file);
  OCTAPHON_ASSIGN(const SafeFolder folder, SafeFolder::open(file.parent_path(), false));
  OCTAPHON_ASSIGN(ReadBack there, readBack(folder, file.filename().string(), {}, {job}));
  std::vector<fs::path> folders;
  addAround(file, folders);
  auto found = Search(request, std::move(there), job).in(folders, request.deliveries);
  if (isStopped(job)) return fail(ErrorCode::Cancelled, file.string());
  return found;
}

}  // namespace octaphon
