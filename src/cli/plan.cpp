#include "plan.h"

#include <cstdio>

#include <CLI/CLI.hpp>

#include "base/unicode.h"
#include "plan/row_loop.h"
#include "plan/sentence.h"
#include "reporter.h"
#include "run/live_sheet.h"

namespace octaphon::cli {
namespace {

/// With the reason of those that were accepted.
template <class Whose>
Json remarksJson(const Sheet& sheet, const Whose& whose, const std::vector<Remark>& remarks) {
  Json list = cli::asJson(remarks);
  for (std::size_t i = 0; i < remarks.size(); ++i) {
    const AcceptedRemark* accepted = sheet.acceptedOf(whose, remarks[i]);
    list[i]["accepted"] = accepted == nullptr ? Json(nullptr) : Json(accepted->reason);
  }
  return list;
}

Json asJson(const Sheet& sheet, const Row& row) {
  Json json{
      {"key", sheet.keyOf(row)},
      {"brief", sheet.briefOf(row).brief.name},
      {"span", sheet.spanOf(row).name},
      {"source", sheet.sourceOf(row).name},
      {"heard", sheet.sourceOf(row).heard},
      {"file", row.file},
      {"start", row.start},
      {"frames", row.frames()},
      {"lead_in", row.extent.leadIn},
      {"body", row.extent.body},
      {"tail", row.extent.tail},
      {"rate", row.rate},
      {"channels", row.channels},
      {"layout", channelText(row.channels)},
      {"loop", loopJson(sheet, row, row.extent, !row.isMeasured || !sheet.endsOf(row).isCutByHearing())},
      {"encoding", encodingInfo(row.encoding).name},
      {"container", containerName(sheet.formOf(row).container())},
      {"state", rowStateName(row.state)},
      {"edition", editionJson(sheet.briefOf(row))},
      {"output", row.output},
      {"name_of_its_own", ownNameJson(sheet, row)},
      {"remarks", remarksJson(sheet, row, sheet.remarksOf(row))}};
  if (row.state == RowState::Renamed) json["from"] = row.from;
  if (row.isMeasured) {
    json["frames"] = json["tail"] = nullptr;
    json["frames_max"] = row.frames();
  }
  return json;
}

Json asJson(const Sheet& sheet, const PlannedBrief& brief, const Session& session) {
  return {{"name", brief.brief.name},
          {"sentence", sentenceText(brief.brief, session)},
          {"folder", brief.base.full().lexically_normal().string()},
          {"rows", brief.rowCount},
          {"regions", brief.spanCount()},
          {"sources", brief.sources.size()},
          {"left_out_without_clips", brief.leftOutEmpty},
          {"left_out_muted", brief.leftOutMuted},
          {"remarks", remarksJson(sheet, brief, brief.remarks)}};
}

/// One line, so that large sheets cost no tree of values.
void printSheetJson(const Sheet& sheet, const Session& session) {
  std::printf("{\"version\":\"%s\",\"session\":%s,\"rows\":[", kJsonVersion, jsonText(sheet.session).c_str());
  const char* comma = "";
  for (const Row& row : sheet.rows) {
    std::printf("%s%s", comma, jsonText(asJson(sheet, row)).c_str());
    comma = ",";
  }
  Json briefs = Json::array();
  for (const PlannedBrief& brief : sheet.briefs) briefs.push_back(asJson(sheet, brief, session));
  std::printf("],\"briefs\":%s}\n", jsonText(briefs).c_str());
}

template <class Whose>
void printRemarks(const Sheet& sheet, const Whose& whose, const std::vector<Remark>& remarks,
                  const char* indent) {
  for (const Remark& remark : remarks) {
    const AcceptedRemark* accepted = sheet.acceptedOf(whose, remark);
    const std::string kind = accepted == nullptr ? std::string(severityName(remark.severity))
                             : accepted->reason.empty()
                                 ? "accepted"
                                 : "accepted (" + printable(accepted->reason, 120) + ")";
    std::printf("%s%s: %s\n", indent, kind.c_str(), printable(remark.text, 600).c_str());
  }
}

void printText(const Sheet& sheet, const Session& session) {
  for (const PlannedBrief& brief : sheet.briefs) {
    std::printf("%s\n  %s\n", printable(brief.brief.name).c_str(),
                printable(sentenceText(brief.brief, session), 2000).c_str());
    printRemarks(sheet, brief, brief.remarks, "  ");
    for (std::size_t i = brief.firstRow; i < brief.firstRow + brief.rowCount; ++i) {
      const Row& row = sheet.rows[i];
      std::printf("  %-44s %18s  %-6s  %-10s  %s\n",
                  row.file.empty() ? "(no name)" : printable(row.file, 3000).c_str(),
                  sheet.lengthText(row).c_str(), channelText(row.channels).c_str(),
                  std::string(rowStateText(row.state)).c_str(), printable(sheet.sourceOf(row).heard).c_str());
      printRemarks(sheet, row, sheet.remarksOf(row), "      ");
    }
  }
  std::printf("%s\n", countText(sheet).c_str());
}

int runPlan(const BriefOptions& options) {
  MediaCache cache(MediaCache::defaultFolder());
  int exit = kWell;
  const auto planned = planAsAsked(options, cache, exit);
  if (!planned) return exit;
  if (options.json)
    printSheetJson(*planned->sheet, *planned->opened.session);
  else
    printText(*planned->sheet, *planned->opened.session);
  return kWell;
}

}  // namespace

std::optional<Planned> planAsAsked(const BriefOptions& options, MediaCache& cache, int& exit) {
  exit = kSessionUnreadable;
  auto opened = openSession(options.session, cache, options.json);
  if (!opened) return std::nullopt;
  exit = kWrongUsage;
  if (!applySettings(*opened, options.set, options.json)) return std::nullopt;
  const auto request = requestOf(*opened->session, options);
  if (!request) return std::nullopt;
  exit = kWell;
  auto sheet = std::make_shared<Sheet>(
      planWithStates(*opened->session, *opened->facts, *request, opened->plugins.get()));
  return Planned{std::move(*opened), std::move(sheet)};
}

Json loopJson(const Sheet& sheet, const Row& row, const Extent& extent, bool isKnown) {
  const std::optional<RowLoop> loop = loopOf(sheet, row, extent);
  if (!loop) return nullptr;
  return {{"way", nameOf(loop->way)},
          {"start", loop->start},
          {"length", isKnown ? Json(loop->length) : Json(nullptr)},
          {"beats", isKnown ? orNull(loop->beats) : Json(nullptr)},
          {"laps", loop->laps}};
}

void addBriefOptions(CLI::App& command, BriefOptions& options) {
  command.add_option("session", options.session, "Session file (*.octaphon)")->required();
  command.add_option("--brief", options.briefs, "Only the brief of this name; may be given several times")
      ->allow_extra_args(false);
  command.add_option("--out", options.out, "Folder for the files, instead of each brief's own")
      ->check(
          CLI::Validator([](const std::string& given) { return given.empty() ? "it is empty" : ""; }, ""));
  command
      .add_option(
          "--set", options.set,
          "[BRIEF:]KEY=VALUE: a field of all briefs, or of one, for this time; may be given several times")
      ->allow_extra_args(false);
  command.add_flag("--json", options.json, "Print JSON for programs");
  command.add_flag("--thorough", options.thorough,
                   "Read every file that was made: bits may have changed while its size and time stayed");
}

void addNumberOptions(CLI::App& command, BriefOptions& options) {
  command.add_flag("--number-again", options.numberAgain,
                   "Numbers in names anew, without gaps; `render` renames the files that are there");
}

void addPlan(CLI::App& app, int& exit) {
  auto options = std::make_shared<BriefOptions>();
  CLI::App* command = app.add_subcommand("plan", "Shows the files that briefs ask for, and makes none");
  addBriefOptions(*command, *options);
  addNumberOptions(*command, *options);
  command->callback([options, &exit] { exit = runPlan(*options); });
}

}  // namespace octaphon::cli
