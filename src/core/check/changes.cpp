#include "check/changes.h"

#include <algorithm>
#include <atomic>
#include <map>

#include "base/in_parallel.h"
#include "ledger/folder_listing.h"

namespace octaphon {
namespace {

/// Files of one delivery that are there, by the key of their row.
using FilesByKey = std::map<std::string, const ReceiptLine*>;

struct Delivery {
  SafeFolder folder;
  FolderFacts facts;
};

Result<Delivery> openDelivery(const FolderPath& base) {
  OCTAPHON_ASSIGN(SafeFolder folder, SafeFolder::open(base, false));
  FolderFacts facts = lookAtFolder(base, {});
  if (facts.receipt->byFile().empty())
    return fail(ErrorCode::NotFound, base.full().string(),
                "there is no receipt, or nothing in it: nobody knows what was delivered here",
                "Give the folder that files were made into");
  return Delivery{std::move(folder), std::move(facts)};
}

/// Editions of a brief that files are there of; 0 of files that do not say.
std::set<int> editionsOf(const FolderFacts& facts, const std::string& brief) {
  std::set<int> editions;
  for (const auto& [file, lines] : facts.receipt->byFile())
    if (facts.find(file) != nullptr && lines.back().brief() == brief) editions.insert(lines.back().edition);
  return editions;
}

/// Of each brief the edition that is `back` before its newest one.
FilesByKey filesOf(const FolderFacts& facts, const std::set<std::string>& briefs, std::size_t back) {
  std::map<std::string, std::optional<int>> chosen;
  FilesByKey files;
  for (const auto& [file, lines] : facts.receipt->byFile()) {
    const FoundFile* found = facts.find(file);
    if (found == nullptr) continue;
    const ReceiptLine& line = found->line != nullptr ? *found->line : lines.back();
    const std::string brief = line.brief();
    if (!briefs.empty() && !briefs.contains(brief)) continue;
    const auto [edition, isNew] = chosen.try_emplace(brief);
    if (isNew) {
      const std::set<int> all = editionsOf(facts, brief);
      if (all.size() > back) edition->second = *std::next(all.rbegin(), static_cast<std::ptrdiff_t>(back));
    }
    if (edition->second != line.edition) continue;
    const ReceiptLine*& kept = files[line.key];
    if (kept == nullptr || kept->stamp.changed < line.stamp.changed) kept = &line;
  }
  return files;
}

struct Pair {
  const ReceiptLine *now, *before;
};

/// Holds the files of two deliveries against each other.
class Comparison {
 public:
  Comparison(const ChangesRequest& request, const SafeFolder& now, const SafeFolder& before, JobControl* job)
      : request_(request), now_(now), before_(before), job_(job) {}

  /// Nothing where they are the same under the name that was to be expected: an edition has names of its own.
  Result<std::optional<FileChange>> changeOf(const Pair& pair) {
    const bool isSameName = pair.now->file == pair.before->file;
    FileChange change{request_.base, pair.now->file, pair.now->key,
                      isSameName ? std::string() : pair.before->file};
    OCTAPHON_ASSIGN(const FileHandle now, now_.openFile(pair.now->file));
    OCTAPHON_ASSIGN(FileHandle before, before_.openFile(pair.before->file));
    OCTAPHON_ASSIGN(change.isSameBytes, haveSameBytes(now.get(), before.get(), pair.now->file));
    if (change.isSameBytes)
      return isSameName || !request_.before ? std::nullopt : std::optional(std::move(change));
    OCTAPHON_ASSIGN(change.difference,
                    differenceOf(now.get(), pair.now->file, before.get(), pair.before->file, {job_}));
    if (!change.difference->isNone() && held_++ < request_.mostHeld)
      holdOpen(change, std::make_shared<FileHandle>(std::move(before)));
    return std::optional(std::move(change));
  }

 private:
  const ChangesRequest& request_;
  const SafeFolder &now_, &before_;
  JobControl* job_;
  std::atomic<std::size_t> held_{0};
};

}  // namespace

Result<Changes> changesSince(const ChangesRequest& request, JobControl* job) {
  OCTAPHON_ASSIGN(const Delivery now, openDelivery(request.base));
  std::optional<Delivery> other;
  if (request.before) {
    OCTAPHON_ASSIGN(other, openDelivery(*request.before));
  }
  const Delivery& before = other ? *other : now;
  const FilesByKey files = filesOf(now.facts, request.briefs, 0);
  const FilesByKey earlier = filesOf(before.facts, request.briefs, other ? 0 : 1);
  if (!other && earlier.empty())
    return fail(ErrorCode::NotFound, request.base.full().string(), "there is no edition before this one",
                "Give the folder of the last delivery");
  Changes changes;
  std::vector<Pair> pairs;
  for (const auto& [key, line] : files)
    if (const auto found = earlier.find(key); found != earlier.end())
      pairs.push_back({line, found->second});
    else
      changes.added.push_back(line->file);
  for (const auto& [key, line] : earlier)
    if (!files.contains(key)) changes.gone.push_back(line->file);
  expectParts(job, pairs.size());
  std::vector<Result<std::optional<FileChange>>> found(pairs.size(), std::optional<FileChange>());
  Comparison comparison(request, now.folder, before.folder, job);
  inParallel(pairs.size(), [&](std::size_t i) {
    if (!isStopped(job)) found[i] = comparison.changeOf(pairs[i]);
    finishPart(job);
  });
  for (auto& one : found) {
    if (!one)
      changes.problems.push_back(std::move(one.error()));
    else if (*one)
      changes.changes.push_back(std::move(**one));
    else
      ++changes.same;
  }
  std::sort(changes.changes.begin(), changes.changes.end(),
            [](const FileChange& a, const FileChange& b) { return a.file < b.file; });
  std::sort(changes.added.begin(), changes.added.end());
  std::sort(changes.gone.begin(), changes.gone.end());
  return changes;
}

}  // namespace octaphon
