#include "names.h"

#include <cstdio>

#include <CLI/CLI.hpp>

#include "base/unicode.h"
#include "common.h"
#include "naming/template.h"
#include "run/live_sheet.h"

namespace octaphon::cli {
namespace {

struct NamesOptions {
  std::string session, format, brief;
  bool json = false;
};

void print(const Sheet& sheet, const Row& row, bool json) {
  const std::vector<Remark> remarks = sheet.remarksOf(row);
  if (json)
    return printJson({{"key", sheet.keyOf(row)}, {"name", row.file}, {"remarks", cli::asJson(remarks)}});
  std::printf("%s\n", row.file.empty() ? "(no name)" : printable(row.file, 4096).c_str());
  for (const Remark& remark : remarks)
    if (remark.severity != Severity::Note)
      std::fprintf(messages(), "%s: %s: %s\n", printable(row.file).c_str(),
                   std::string(severityName(remark.severity)).c_str(), printable(remark.text, 600).c_str());
}

int runNames(const NamesOptions& options) {
  MediaCache cache(MediaCache::defaultFolder());
  const auto opened = openSession(options.session, cache, options.json);
  if (!opened) return kSessionUnreadable;
  Session session = *opened->session;
  BriefOptions brief;
  brief.json = options.json;
  if (!options.brief.empty()) brief.briefs = {options.brief};
  auto request = requestOf(session, brief);
  if (!request) return kWrongUsage;
  if (request->briefs.empty())
    return fails({ErrorCode::UnknownName, options.session, "the session has no brief", "Make one first"},
                 kWrongUsage, options.json);
  request->briefs = {request->briefs.front()};
  if (const auto format = Template::parse(options.format); !format)
    return fails(format.error(), kFailed, options.json);
  session.briefs[request->briefs[0]].names.format = options.format;
  const Sheet sheet = planWithStates(session, *opened->facts, *request, opened->plugins.get());
  for (const Row& row : sheet.rows) print(sheet, row, options.json);
  return kWell;
}

}  // namespace

void addNames(CLI::App& app, int& exit) {
  auto options = std::make_shared<NamesOptions>();
  CLI::App* command = app.add_subcommand("names", "Prints the names that a template would give");
  command->add_option("session", options->session, "Session file (*.octaphon)")->required();
  command->add_option("--template", options->format, "The template, as docs/names.md describes it")
      ->required();
  command->add_option("--brief", options->brief, "The brief whose rows are named, instead of the first");
  command->add_flag("--json", options->json, "Print JSON for programs");
  command->callback([options, &exit] { exit = runNames(*options); });
}

}  // namespace octaphon::cli
