#include "status.h"

#include <cstdio>
#include <map>

#include <CLI/CLI.hpp>

#include "base/unicode.h"
#include "plan.h"
#include "reporter.h"

namespace octaphon::cli {
namespace {

bool isWell(RowState state) {
  return state == RowState::UpToDate || state == RowState::OlderEngine || state == RowState::HeldBack;
}

std::map<RowState, std::size_t> countsOf(const Sheet& sheet) {
  std::map<RowState, std::size_t> counts;
  for (const Row& row : sheet.rows) ++counts[row.state];
  return counts;
}

void printSheetJson(const Sheet& sheet, bool isUpToDate) {
  Json counts = Json::object();
  for (const auto& [state, count] : countsOf(sheet)) counts[std::string(rowStateName(state))] = count;
  Json rows = Json::array();
  for (const Row& row : sheet.rows) {
    Json json{{"key", sheet.keyOf(row)},
              {"brief", sheet.briefOf(row).brief.name},
              {"file", row.file},
              {"state", rowStateName(row.state)},
              {"edition", editionJson(sheet.briefOf(row))},
              {"output", row.output},
              {"name_of_its_own", ownNameJson(sheet, row)}};
    if (row.state == RowState::Renamed) json["from"] = row.from;
    rows.push_back(json);
  }
  Json folders = Json::array();
  for (const SheetFolder& folder : sheet.folders) {
    Json json{{"folder", folder.base.full().lexically_normal().string()}};
    json.update(cli::asJson(folder));
    folders.push_back(json);
  }
  printJson({{"session", sheet.session},
             {"up_to_date", isUpToDate},
             {"counts", counts},
             {"rows", rows},
             {"folders", folders}});
}

void printText(const Sheet& sheet) {
  for (const Row& row : sheet.rows)
    if (!isWell(row.state))
      std::printf("%-12s %s\n", std::string(rowStateText(row.state)).c_str(),
                  row.file.empty() ? "(no name)" : printable(row.file, 3000).c_str());
  for (const SheetFolder& folder : sheet.folders)
    for (const SheetFolder::LeftOver& file : folder.leftOver)
      std::printf("%-12s %s\n", "left over", printable(file.file, 3000).c_str());
  std::string line;
  for (const auto& [state, count] : countsOf(sheet))
    line += (line.empty() ? "" : ", ") + std::to_string(count) + " " + std::string(rowStateText(state));
  std::printf("%s\n", line.empty() ? "no files" : line.c_str());
}

int runStatus(const BriefOptions& options) {
  MediaCache cache(MediaCache::defaultFolder());
  int exit = kWell;
  const auto planned = planAsAsked(options, cache, exit);
  if (!planned) return exit;
  const Sheet& sheet = *planned->sheet;
  const bool isUpToDate =
      std::all_of(sheet.rows.begin(), sheet.rows.end(), [](const Row& row) { return isWell(row.state); });
  if (options.json)
    printSheetJson(sheet, isUpToDate);
  else
    printText(sheet);
  return isUpToDate ? kWell : kFailed;
}

}  // namespace

void addStatus(CLI::App& app, int& exit) {
  auto options = std::make_shared<BriefOptions>();
  CLI::App* command = app.add_subcommand("status", "Tells whether all files are up to date, and makes none");
  addBriefOptions(*command, *options);
  command->callback([options, &exit] { exit = runStatus(*options); });
}

}  // namespace octaphon::cli
