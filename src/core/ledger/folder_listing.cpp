#include "ledger/folder_listing.h"

#include <algorithm>
#include <optional>

#include "base/pending_file.h"
#include "base/unicode.h"
#include "ledger/lines_by_stamp.h"

namespace octaphon {
namespace {

constexpr std::size_t kMostNamed = 2000;  // files in folders that are not ours, together
constexpr int kDeepest = 16;

class Listing {
 public:
  Listing(const SafeFolder& folder, const std::set<std::string>& files, bool thorough, FolderFacts& facts)
      : folder_(folder), files_(files), thorough_(thorough), facts_(facts) {
    addFolder("");
    for (const std::string& file : files) addFolder(folderOf(file));
    for (const auto& [file, lines] : facts.receipt->byFile()) addFolder(folderOf(file));
  }

  void list() {
    for (const std::string& below : folders_) listOne(below);
    // Files get their names after their lines: what a run named meanwhile, the receipt knows by now.
    if (!facts_.receipt->isAllOf(folder_))
      facts_.receipt = std::make_shared<const Receipt>(Receipt::load(folder_));
    for (const auto& [file, entry] : found_) take(file, entry);
    for (auto& [key, names] : facts_.byKey) sortByAge(names);
    findAlike();
    nameForeignFolders();
    std::sort(facts_.foreign.begin(), facts_.foreign.end());
  }

 private:
  /// With those that it lies in.
  void addFolder(std::string below) {
    while (folders_.insert(below).second && !below.empty()) below = folderOf(below);
  }

  void listOne(const std::string& below) {
    const auto entries = folder_.list(below);
    if (!entries) {
      if (entries.error().code != ErrorCode::NotFound) facts_.problems.emplace(below, entries.error());
      return;
    }
    const std::string head = below.empty() ? "" : below + "/";
    for (const SafeFolder::Entry& entry : *entries) found_.emplace_back(head + entry.name, entry);
  }

  void take(const std::string& file, const SafeFolder::Entry& entry) {
    const std::vector<ReceiptLine>& lines = facts_.receipt->linesOf(file);
    const bool isAsked = files_.contains(file);
    if (isAsked || (entry.isFile && !lines.empty())) {
      const FoundFile found = judge(file, entry, lines);
      facts_.files[file] = found;
      if (found.verdict == FileVerdict::Ours) facts_.byKey[found.line->key].push_back(file);
    } else if (isTemporaryName(entry.name)) {
      takeUnfinished(file, entry);
    } else if (!isReceiptName(entry.name) && !folders_.contains(file) &&
               !(entry.isFile && facts_.receipt->lists().contains(file))) {
      if (entry.isFile) others_.push_back(file);
      (entry.isFile ? facts_.foreign : strangers_).push_back(file);
    }
  }

  FoundFile judge(const std::string& file, const SafeFolder::Entry& entry,
                  const std::vector<ReceiptLine>& lines) const {
    if (!entry.isFile || lines.empty()) return {};
    if (const ReceiptLine* line = thorough_ ? nullptr : onlyLineOf(entry.stamp, lines))
      return {FileVerdict::Ours, line};
    const auto handle = folder_.openFile(file);
    for (auto line = lines.rbegin(); handle && line != lines.rend(); ++line) {
      const auto content = digestOf(handle->get(), file, line->head);
      if (content && *content == line->content) return {FileVerdict::Ours, &*line};
    }
    return {FileVerdict::Changed, &lines.back()};
  }

  /// The line with this size and time, where they tell one content alone: files that were written at once
  /// have one time, often one size, and may have been meant to change names.
  static const ReceiptLine* onlyLineOf(const FileStamp& stamp, const std::vector<ReceiptLine>& lines) {
    const auto fits = [&](const ReceiptLine& line) { return line.stamp == stamp; };
    const auto found = std::find_if(lines.rbegin(), lines.rend(), fits);
    if (found == lines.rend()) return nullptr;
    const bool isClear = std::all_of(found, lines.rend(), [&](const ReceiptLine& line) {
      return !fits(line) || line.content == found->content;
    });
    return isClear ? &*found : nullptr;
  }

  /// What a run had written, and told the receipt of, when it was ended.
  void takeUnfinished(const std::string& file, const SafeFolder::Entry& entry) {
    if (!entry.isFile) return;
    const auto handle = folder_.openFile(file);
    if (!handle) return;
    if (!byStamp_) byStamp_.emplace(*facts_.receipt);
    const ReceiptLine* line = byStamp_->of(handle->get());
    if (line == nullptr) return;
    facts_.files[file] = {FileVerdict::Ours, line};
    facts_.byKey[line->key].push_back(file);
  }

  void sortByAge(std::vector<std::string>& names) const {
    const auto age = [&](const std::string& name) { return facts_.files.at(name).line->stamp.changed; };
    std::sort(names.begin(), names.end(), [&](const std::string& a, const std::string& b) {
      return std::pair(age(b), a) < std::pair(age(a), b);
    });
  }

  /// Of files that are there unasked, those that systems which ignore letter case take for one asked for.
  void findAlike() {
    if (others_.empty()) return;
    std::unordered_map<std::string, const std::string*> asked;
    for (const std::string& file : files_) asked.emplace(comparableName(file), &file);
    for (const std::string& other : others_)
      if (const auto found = asked.find(comparableName(other)); found != asked.end())
        facts_.alike.emplace(*found->second, other);
  }

  void nameForeignFolders() {
    for (const std::string& stranger : strangers_) {
      std::vector<std::string> inside;
      if (named_ >= kMostNamed)
        facts_.foreign.push_back(stranger + "/");
      else if (const auto entries = folder_.list(stranger); !entries)
        facts_.foreign.push_back(stranger);  // a link, a pipe
      else if (isOwnDelivery(*entries))
        continue;
      else if (nameAll(stranger, *entries, 0, inside) && !inside.empty())
        facts_.foreign.insert(facts_.foreign.end(), inside.begin(), inside.end());
      else
        facts_.foreign.push_back(stranger + "/");
    }
  }

  static bool isOwnDelivery(const std::vector<SafeFolder::Entry>& entries) {
    return std::any_of(entries.begin(), entries.end(),
                       [](const SafeFolder::Entry& entry) { return entry.name == kReceiptName; });
  }

  /// False where it is too much.
  bool nameAll(const std::string& below, const std::vector<SafeFolder::Entry>& entries, int depth,
               std::vector<std::string>& names) {
    if (depth > kDeepest) return false;
    for (const SafeFolder::Entry& entry : entries) {
      const std::string name = below + "/" + entry.name;
      const auto deeper = entry.isFile ? Result<std::vector<SafeFolder::Entry>>(fail(ErrorCode::NotFound, {}))
                                       : folder_.list(name);
      if (deeper && isOwnDelivery(*deeper)) continue;
      if (deeper ? !nameAll(name, *deeper, depth + 1, names) : ++named_ > kMostNamed) return false;
      if (!deeper) names.push_back(name);
    }
    return true;
  }

  const SafeFolder& folder_;
  const std::set<std::string>& files_;
  bool thorough_;
  FolderFacts& facts_;
  std::set<std::string> folders_;                                 // that are looked into
  std::vector<std::pair<std::string, SafeFolder::Entry>> found_;  // in them
  std::vector<std::string> others_;                               // files in them that are not asked for
  std::vector<std::string> strangers_;                            // what is no file
  std::size_t named_ = 0;                                         // of what is in strangers
  std::optional<LinesByStamp> byStamp_;                           // once something is unfinished
};

}  // namespace

const Error* FolderFacts::problemOf(const std::string& file) const {
  for (const std::string& folder : {std::string(), folderOf(file)})
    if (const auto found = problems.find(folder); found != problems.end()) return &found->second;
  return nullptr;
}

const FoundFile* FolderFacts::find(const std::string& file) const {
  const auto found = files.find(file);
  return found == files.end() ? nullptr : &found->second;
}

std::shared_ptr<const Receipt> receiptIn(const FolderPath& base) {
  const auto folder = SafeFolder::open(base, false);
  return std::make_shared<const Receipt>(folder ? Receipt::load(*folder) : Receipt());
}

FolderFacts lookAtFolder(const FolderPath& base, const std::set<std::string>& files,
                         std::shared_ptr<const Receipt> receipt, bool thorough) {
  FolderFacts facts;
  facts.receipt = receipt ? std::move(receipt) : receiptIn(base);
  const auto folder = SafeFolder::open(base, false);
  if (!folder) {
    if (folder.error().code != ErrorCode::NotFound) facts.problems.emplace("", folder.error());
    return facts;
  }
  Listing(*folder, files, thorough, facts).list();
  facts.measured = facts.receipt->measured();
  return facts;
}

}  // namespace octaphon
