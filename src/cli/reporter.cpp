#include "reporter.h"

#include <unistd.h>

#include <cstdio>

#include "base/decibels.h"
#include "base/unicode.h"
#include "plan.h"

namespace octaphon::cli {
namespace {

std::string_view resultName(const RowOutcome& outcome) {
  if (!outcome.result) return "failed";
  switch (outcome.deed) {
    case Deed::Rendered:
    case Deed::Adopted: return "written";
    case Deed::Renamed: return "renamed";
    case Deed::Rewritten: return "rewritten";
  }
  return {};
}

void addFigures(Json& json, const Sheet& sheet, const RowOutcome& outcome, const Row& row) {
  json["frames"] = outcome.extent.frames();
  json["lead_in"] = outcome.extent.leadIn;
  json["body"] = outcome.extent.body;
  json["tail"] = outcome.extent.tail;
  json["start"] = outcome.start;
  json["loop"] = loopJson(sheet, row, outcome.extent, true);
  if (outcome.seam) json["seam"] = cli::asJson(*outcome.seam);
  json["rate"] = row.rate;
  const bool isMeasured = outcome.deed == Deed::Rendered;
  json["gain_db"] = isMeasured ? Json(outcome.gainDb) : Json(nullptr);
  json.update(cli::asJson(isMeasured ? outcome.levels : Levels{}));
  if (!isMeasured) return;
  if (!outcome.rungOut.isKnown) return;
  json["tail_stopped"] = outcome.rungOut.byLimit ? "limit" : "quiet";
  json["tail_left_db"] = outcome.rungOut.leftDb;
}

void say(const std::string& line) {
  std::fprintf(messages(), "%s%s\n", ::isatty(::fileno(messages())) ? "\r\033[K" : "",
               printable(line, 2000).c_str());
}

}  // namespace

Json editionJson(const PlannedBrief& brief, bool isBegun) {
  if (!isBegun && !brief.isBegun) return nullptr;
  return {{"date", dateText(brief.edition.date)}, {"version", brief.edition.version}};
}

Json ownNameJson(const Sheet& sheet, const Row& row) {
  const RowException* own = sheet.exceptionOf(row);
  return own == nullptr || own->name.empty() ? Json(nullptr) : Json(own->name);
}

Json asJson(const SheetFolder& folder) {
  Json leftOver = Json::array();
  for (const SheetFolder::LeftOver& file : folder.leftOver) leftOver.push_back(file.file);
  return {{"left_over", leftOver},
          {"changed", folder.changed},
          {"foreign", folder.foreign},
          {"same_sound", folder.sameSound}};
}

void Reporter::row(const RowOutcome& outcome) {
  const Row& row = sheet_.rows[outcome.row];
  std::vector<Remark> remarks = sheet_.remarksOf(row);
  if (outcome.deed == Deed::Rendered)
    for (Remark& found : remarksOf(session_, sheet_, outcome)) remarks.push_back(std::move(found));
  if (outcome.result) done_.emplace_back(outcome.row, outcome.deed);
  if (json_)
    printRow(outcome, row, remarks);
  else
    printText(outcome, row, remarks);
}

void Reporter::remark(const Remark& remark) const {
  if (!json_) return say(remark.text);
  Json json{{"event", "remark"}};
  json.update(cli::asJson(remark));
  printJson(json);
}

void Reporter::sum(const SumOutcome& outcome) const {
  const PlannedBrief& brief = sheet_.briefs[outcome.brief];
  const std::string& span = brief.spans[outcome.span].name;
  if (!json_) {
    if (outcome.verdict == SumVerdict::Differs) say(brief.brief.name + ": " + span + ": " + outcome.text);
    return;
  }
  Json json{{"event", "sum"},
            {"brief", brief.brief.name},
            {"span", span},
            {"residual_db", nullptr},
            {"verdict", sumVerdictName(outcome.verdict)},
            {"text", outcome.text}};
  if (outcome.verdict != SumVerdict::NotJudged) json["residual_db"] = outcome.residualDb;
  printJson(json);
}

void Reporter::report(const Sheet& after) const {
  for (const SheetFolder& folder : after.folders) {
    Json made = Json::array(), replaced = Json::array(), renamed = Json::array(), rewritten = Json::array();
    for (const auto& [index, deed] : done_) {
      const Row& row = sheet_.rows[index];
      if (sheet_.briefOf(row).base != folder.base) continue;
      if (deed == Deed::Renamed)
        renamed.push_back({{"from", row.from}, {"to", row.file}});
      else
        (deed == Deed::Rewritten         ? rewritten
         : row.state == RowState::ToMake ? made
                                         : replaced)
            .push_back(row.file);
    }
    Json json{{"event", "report"},  {"folder", folder.base.full().lexically_normal().string()},
              {"new", made},        {"replaced", replaced},
              {"renamed", renamed}, {"rewritten", rewritten}};
    json.update(cli::asJson(folder));
    if (json_) printJson(json);
    const std::size_t surplus = folder.leftOver.size();
    if (!json_ && surplus > 0)
      say(counted(surplus, "left-over file") + " in " + folder.base.full().lexically_normal().string() +
          ": see octaphon-cli clean");
  }
}

void Reporter::done(const RunSummary& summary, const SheetCounts& before, std::size_t kept) const {
  if (json_)
    return printJson({{"event", "done"},
                      {"written", summary.written},
                      {"renamed", summary.renamed},
                      {"rewritten", summary.rewritten},
                      {"failed", summary.failed},
                      {"seconds", summary.seconds},
                      {"realtime", summary.realtime()},
                      {"up_to_date", before.upToDate},
                      {"older_engine", before.olderEngine},
                      {"held_back", before.heldBack},
                      {"kept", kept},
                      {"cancelled", summary.cancelled}});
  const auto also = [](std::size_t count, const char* words) {
    return count > 0 ? ", " + std::to_string(count) + words : std::string();
  };
  std::printf("%s written%s%s, %zu failed, %zu up to date%s%s in %.1f s, %.0f × real time%s\n",
              counted(summary.written, "file").c_str(), also(summary.renamed, " renamed").c_str(),
              also(summary.rewritten, " with new data").c_str(), summary.failed, before.upToDate,
              also(kept, " kept").c_str(), also(before.heldBack, " held back").c_str(), summary.seconds,
              summary.realtime(), summary.cancelled ? "; stopped before the end" : "");
}

void Reporter::printRow(const RowOutcome& outcome, const Row& row, const std::vector<Remark>& remarks) const {
  Json json{{"event", "row"},
            {"file", row.file},
            {"key", sheet_.keyOf(row)},
            {"brief", sheet_.briefOf(row).brief.name},
            {"edition", editionJson(sheet_.briefOf(row), outcome.result.has_value())},
            {"output", row.output},
            {"name_of_its_own", ownNameJson(sheet_, row)},
            {"result", resultName(outcome)},
            {"frames", row.isMeasured ? Json(nullptr) : Json(row.frames())}};
  if (outcome.deed == Deed::Renamed) json["from"] = row.from;
  if (outcome.result)
    addFigures(json, sheet_, outcome, row);
  else
    json["error"] = outcome.result.error().describe();
  json["remarks"] = cli::asJson(remarks);
  printJson(json);
}

void Reporter::printText(const RowOutcome& outcome, const Row& row, const std::vector<Remark>& remarks) {
  if (!outcome.result) return printFailure(outcome, row);
  for (const Remark& remark : remarks)
    if (remark.severity == Severity::Warning) say(nameOf(row) + ": " + remark.text);
}

/// What is wrong with a folder is said once, not for each of its files.
void Reporter::printFailure(const RowOutcome& outcome, const Row& row) {
  const std::string why = outcome.result.error().describe();
  if (!outcome.concernsFolder)
    say("failed: " + nameOf(row) + ": " + why);
  else if (said_.insert(why).second)
    say("failed: all files there: " + why);
}

/// Of a row; one that has no file name is called by what it is of.
std::string Reporter::nameOf(const Row& row) const {
  return row.file.empty() ? sheet_.spanOf(row).name + ", " + sheet_.sourceOf(row).name : row.file;
}

}  // namespace octaphon::cli
