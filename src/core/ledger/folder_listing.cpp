#include "ledger/folder_listing.h"

namespace octaphon {
namespace {

std::string folderOf(const std::string& file) {
  const std::size_t slash = file.rfind('/');
  return slash == std::string::npos ? std::string() : file.substr(0, slash);
}

FoundFile judge(const SafeFolder& folder, const std::string& file, const SafeFolder::Entry& entry,
                const std::vector<ReceiptLine>& lines) {
  if (!entry.isFile || lines.empty()) return {};
  for (auto line = lines.rbegin(); line != lines.rend(); ++line)
    if (line->stamp == entry.stamp) return {FileVerdict::Ours, *line};
  const auto handle = folder.openFile(file);
  for (auto line = lines.rbegin(); handle && line != lines.rend(); ++line) {
    const auto content = digestOf(handle->get(), file, line->head);
    if (content && *content == line->content) return {FileVerdict::Ours, *line};
  }
  return {FileVerdict::Changed, lines.back()};
}

}  // namespace

FolderFacts lookAtFolder(const std::filesystem::path& base, const std::set<std::string>& files) {
  FolderFacts facts;
  const auto folder = SafeFolder::open(base, false);
  if (!folder) return facts;
  const Receipt receipt = Receipt::load(*folder);
  facts.damagedLines = receipt.damagedLines();
  std::set<std::string> folders;
  for (const std::string& file : files) folders.insert(folderOf(file));
  for (const std::string& below : folders) {
    const std::string head = below.empty() ? "" : below + "/";
    for (const SafeFolder::Entry& entry : folder->list(below)) {
      const std::string file = head + entry.name;
      if (files.contains(file)) facts.files[file] = judge(*folder, file, entry, receipt.linesOf(file));
    }
  }
  return facts;
}

}  // namespace octaphon
