#include "ledger/folder_listing.h"

#include "base/unicode.h"

namespace octaphon {
namespace {

FoundFile judge(const SafeFolder& folder, const std::string& file, const SafeFolder::Entry& entry,
                const std::vector<ReceiptLine>& lines, bool thorough) {
  if (!entry.isFile || lines.empty()) return {};
  for (auto line = lines.rbegin(); !thorough && line != lines.rend(); ++line)
    if (line->stamp == entry.stamp) return {FileVerdict::Ours, *line};
  const auto handle = folder.openFile(file);
  for (auto line = lines.rbegin(); handle && line != lines.rend(); ++line) {
    const auto content = digestOf(handle->get(), file, line->head);
    if (content && *content == line->content) return {FileVerdict::Ours, *line};
  }
  return {FileVerdict::Changed, lines.back()};
}

/// Of files that are there unasked, those that systems which ignore letter case take for one asked for.
void findAlike(const std::set<std::string>& files, const std::vector<std::string>& others,
               FolderFacts& facts) {
  if (others.empty()) return;
  std::unordered_map<std::string, const std::string*> asked;
  for (const std::string& file : files) asked.emplace(comparableName(file), &file);
  for (const std::string& other : others)
    if (const auto found = asked.find(comparableName(other)); found != asked.end())
      facts.alike.emplace(*found->second, other);
}

}  // namespace

const Error* FolderFacts::problemOf(const std::string& file) const {
  for (const std::string& folder : {std::string(), folderOf(file)})
    if (const auto found = problems.find(folder); found != problems.end()) return &found->second;
  return nullptr;
}

FolderFacts lookAtFolder(const FolderPath& base, const std::set<std::string>& files, bool thorough) {
  FolderFacts facts;
  const auto folder = SafeFolder::open(base, false);
  if (!folder) {
    if (folder.error().code != ErrorCode::NotFound) facts.problems.emplace("", folder.error());
    return facts;
  }
  const Receipt receipt = Receipt::load(*folder);
  facts.measured = receipt.measured();
  facts.damagedLines = receipt.damagedLines();
  std::set<std::string> folders;
  for (const std::string& file : files) folders.insert(folderOf(file));
  std::vector<std::string> others;
  for (const std::string& below : folders) {
    const auto entries = folder->list(below);
    if (!entries) {
      if (entries.error().code != ErrorCode::NotFound) facts.problems.emplace(below, entries.error());
      continue;
    }
    const std::string head = below.empty() ? "" : below + "/";
    for (const SafeFolder::Entry& entry : *entries) {
      const std::string file = head + entry.name;
      if (files.contains(file))
        facts.files[file] = judge(*folder, file, entry, receipt.linesOf(file), thorough);
      else if (file != kReceiptName)
        others.push_back(file);
    }
  }
  findAlike(files, others, facts);
  return facts;
}

}  // namespace octaphon
