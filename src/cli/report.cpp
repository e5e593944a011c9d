#include "report.h"

#include <cstdio>
#include <filesystem>
#include <map>

#include <CLI/CLI.hpp>

#include "base/files.h"
#include "base/pending_file.h"
#include "base/unicode.h"
#include "common.h"
#include "handover/list_files.h"

namespace octaphon::cli {
namespace {

namespace fs = std::filesystem;

struct ReportOptions {
  std::string folder;
  std::vector<std::string> briefs;
  std::map<HandoverList, std::string> files;  // where each goes; `-`: standard output
  std::string paper;
};

const Paper& paperOf(const ReportOptions& options) {
  for (const Paper& paper : kPapers)
    if (paper.name == options.paper) return paper;
  return usualPaper();
}

Result<> writeList(HandoverList kind, const std::string& file, const Delivery& delivery,
                   const ReportOptions& options) {
  const bool isPrinted = file == "-";
  const fs::path folder = isPrinted ? fs::path(".") : absoluteOf(file).parent_path();
  OCTAPHON_ASSIGN(const std::string content, listContent(kind, delivery, {folder, paperOf(options)}));
  if (!isPrinted) {
    OCTAPHON_TRY(replaceFile(file, content));
    return noteList(delivery.base, file, content);
  }
  std::fwrite(content.data(), 1, content.size(), stdout);
  return {};
}

void printSummary(const Delivery& delivery) {
  std::fprintf(messages(), "%s in %s, %s\n", counted(delivery.files.size(), "file").c_str(),
               printable(delivery.base.full().string()).c_str(),
               delivery.findings() == 0
                   ? "nothing found"
                   : (counted(delivery.findings(), "finding") + ": see octaphon-cli check").c_str());
}

int runReport(const ReportOptions& options) {
  ListKinds kinds;
  for (const auto& [kind, file] : options.files)
    if (!file.empty()) kinds.insert(kind);
  DeliveryRequest request = requestFor(kinds, {options.folder});
  request.briefs.insert(options.briefs.begin(), options.briefs.end());
  const auto delivery = readDelivery(request);
  if (!delivery) return fails(delivery.error(), kFailed);
  int exit = kWell;
  for (const HandoverList kind : kinds) {
    const auto written = writeList(kind, options.files.at(kind), *delivery, options);
    if (!written) exit = fails(written.error(), kFailed);
  }
  printSummary(*delivery);
  return exit;
}

}  // namespace

void addReport(CLI::App& app, int& exit) {
  auto options = std::make_shared<ReportOptions>();
  CLI::App* command = app.add_subcommand(
      "report", "Writes delivery notes, lists and checksums of what was delivered into a folder");
  command->add_option("folder", options->folder, "Folder that files were delivered into")->required();
  command->add_option("--brief", options->briefs, "Only the brief of this id; may be given several times")
      ->allow_extra_args(false);
  for (const ListInfo& info : kListInfos)
    command->add_option("--" + std::string(info.option), options->files[info.kind],
                        std::string(info.description) + ", into this file; - is standard output");
  command
      ->add_option("--paper", options->paper,
                   "Size of the PDF's pages: a4 or letter; otherwise as usual here")
      ->check(CLI::IsMember({"a4", "letter"}));
  command->callback([options, &exit] { exit = runReport(*options); });
}

}  // namespace octaphon::cli
