#include "check.h"

#include <cstdio>
#include <filesystem>
#include <map>

#include <CLI/CLI.hpp>

#include "base/unicode.h"
#include "check/check_folder.h"
#include "plan.h"

namespace octaphon::cli {
namespace {

namespace fs = std::filesystem;

struct Options : BriefOptions {
  bool onlyBytes = false;
};

Json asJson(const FileFinding& finding, const FolderPath& base) {
  const FindingInfo& info = findingInfo(finding.code);
  Json json{{"event", finding.accepted ? "accepted" : "finding"},
            {"code", info.name},
            {"severity", severityName(info.severity)},
            {"file", finding.file},
            {"value", finding.value.empty() ? Json(nullptr) : Json(finding.value)},
            {"expected", finding.expected.empty() ? Json(nullptr) : Json(finding.expected)},
            {"text", finding.text},
            {"folder", base.full().lexically_normal().string()},
            {"key", finding.row.empty() ? Json(nullptr) : Json(finding.row)}};
  if (finding.accepted) json["reason"] = *finding.accepted;
  return json;
}

/// By cause, as people look at them.
void printText(const CheckReport& report) {
  std::map<FindingCode, std::vector<const FileFinding*>> byCode;
  for (const FileFinding& finding : report.findings) byCode[finding.code].push_back(&finding);
  for (const auto& [code, findings] : byCode) {
    std::printf("%s (%zu)\n", std::string(findingInfo(code).title).c_str(), findings.size());
    for (const FileFinding* finding : findings)
      std::printf("  %s%s\n", printable(finding->text, 4000).c_str(),
                  finding->accepted ? (" Accepted: " + printable(*finding->accepted, 400)).c_str() : "");
  }
}

/// What is checked together: a folder with its receipt.
using Requests = std::map<FolderPath, CheckRequest>;

Requests ofPlan(const Sheet& sheet, const Options& options) {
  Requests requests;
  for (const PlannedBrief& brief : sheet.briefs) {
    CheckRequest& request = requests[brief.base];
    request.base = brief.base;
    request.session = sheet.sessionFile;
    request.plannedBriefs.insert(brief.brief.id);
    if (!options.briefs.empty()) request.briefs.insert(brief.brief.id);
    for (const AcceptedRemark& one : brief.brief.accepted)
      request.accepted[brief.brief.id].push_back({one.code, one.reason, one.rows});
    for (std::size_t i = brief.firstRow; i < brief.firstRow + brief.rowCount; ++i) {
      const Row& row = sheet.rows[i];
      if (!row.isHeldBack && !row.file.empty()) request.planned.emplace(sheet.keyOf(row), row.file);
    }
  }
  return requests;
}

std::optional<Requests> requestsOf(const Options& options, int& exit) {
  std::error_code error;
  if (fs::is_directory(options.session, error)) {
    Requests requests;
    CheckRequest& request = requests[{options.session}];
    request.base = {options.session};
    request.briefs.insert(options.briefs.begin(), options.briefs.end());
    return requests;
  }
  MediaCache cache(MediaCache::defaultFolder());
  const auto planned = planAsAsked(options, cache, exit);
  return planned ? std::optional(ofPlan(*planned->sheet, options)) : std::nullopt;
}

int run(const Options& options) {
  int exit = kWell;
  auto requests = requestsOf(options, exit);
  if (!requests) return exit;
  std::size_t files = 0, findings = 0, accepted = 0;
  bool isAllChecked = true;
  for (auto& [base, request] : *requests) {
    request.decodes = !options.onlyBytes;
    const auto report = checkFolder(request);
    if (!report) {
      printError(report.error(), options.json);
      isAllChecked = false;
      continue;
    }
    files += report->files.size();
    findings += report->open();
    accepted += report->accepted();
    if (options.json)
      for (const FileFinding& finding : report->findings) printJson(asJson(finding, base));
    else
      printText(*report);
  }
  if (options.json)
    printJson({{"event", "done"},
               {"files", files},
               {"findings", findings},
               {"accepted", accepted},
               {"decoded", !options.onlyBytes}});
  else
    std::printf("%s checked%s: %s%s\n", counted(files, "file").c_str(),
                options.onlyBytes ? " by their bytes alone, not decoded" : "",
                findings == 0 ? "nothing found" : (counted(findings, "finding")).c_str(),
                accepted == 0 ? "" : (", " + std::to_string(accepted) + " accepted").c_str());
  return findings == 0 && isAllChecked ? kWell : kFailed;
}

}  // namespace

void addCheck(CLI::App& app, int& exit) {
  auto options = std::make_shared<Options>();
  CLI::App* command = app.add_subcommand(
      "check",
      "Checks delivered files as they lie on the disk: of a session, or of a folder from its receipt alone");
  addBriefOptions(*command, *options);
  command->get_option("session")->description(
      "Session file (*.octaphon), or a folder that files were delivered into");
  command->get_option("--brief")->description(
      "Only the brief of this name, or of a folder's receipt of this id; may be given several times");
  command->remove_option(command->get_option("--thorough"));
  command->add_flag("--only-bytes", options->onlyBytes,
                    "Compare bytes with the receipt, and decode nothing: for slow disks, and less sure");
  command->callback([options, &exit] { exit = run(*options); });
}

}  // namespace octaphon::cli
