#include "briefs.h"

#include <algorithm>
#include <cstdio>

#include <CLI/CLI.hpp>

#include "base/pending_file.h"
#include "base/unicode.h"
#include "common.h"
#include "plan/sentence.h"
#include "session/brief_file.h"
#include "session/mistakes.h"
#include "session/session_file.h"
#include "session/session_lock.h"

namespace octaphon::cli {
namespace {

struct BriefsOptions {
  std::string session;
  std::vector<std::string> briefs;
  bool list = false, names = false;
  std::string exportTo, applyFrom;
  bool dryRun = false;
  bool json = false;
};

/// Those of these names; all where none is given. Tells the error where one is not known.
std::optional<std::vector<Brief>> chosenOf(const Session& session, const BriefsOptions& options) {
  if (options.briefs.empty()) return session.briefs;
  const auto request = requestFor(session, options.briefs);
  if (!request) {
    printError(request.error(), options.json);
    return std::nullopt;
  }
  std::vector<Brief> chosen;
  for (const std::size_t index : request->briefs) chosen.push_back(session.briefs[index]);
  return chosen;
}

int list(const Session& session, const BriefsOptions& options) {
  const auto briefs = chosenOf(session, options);
  if (!briefs) return kWrongUsage;
  if (options.names) {
    for (const Brief& brief : *briefs) std::printf("%s\n", printable(brief.name).c_str());
    return kWell;
  }
  Json all = Json::array();
  for (const Brief& brief : *briefs) {
    const std::string sentence = sentenceText(brief, session);
    all.push_back({{"id", brief.id},
                   {"name", brief.name},
                   {"on", brief.isOn},
                   {"sentence", sentence},
                   {"folder", brief.delivery.folder}});
    if (!options.json)
      std::printf("%s%s\n  %s\n", printable(brief.name).c_str(), brief.isOn ? "" : " (off)",
                  printable(sentence, 2000).c_str());
  }
  if (options.json) printJson({{"briefs", all}});
  return kWell;
}

int exportBriefs(const Session& session, const BriefsOptions& options) {
  const auto briefs = chosenOf(session, options);
  if (!briefs) return kWrongUsage;
  const std::string text = writeBriefs(briefFileOf(session, *briefs));
  if (options.exportTo == "-") {
    std::fwrite(text.data(), 1, text.size(), stdout);
    return kWell;
  }
  if (const auto written = replaceFile(options.exportTo, text); !written)
    return fails(written.error(), kFailed, options.json);
  if (options.json)
    printJson({{"exported", briefs->size()}, {"file", options.exportTo}});
  else
    std::printf("%s written to %s\n", counted(briefs->size(), "brief").c_str(),
                printable(options.exportTo).c_str());
  return kWell;
}

/// What a brief's rules and ids find in the session, and what not.
std::vector<Remark> findingsOf(const Session& session, const std::string& name) {
  const auto request = requestFor(session, {name});
  if (!request) return {};
  const Sheet sheet = planSheet(session, MediaFacts(), *request);
  return sheet.briefs.empty() ? std::vector<Remark>() : sheet.briefs.front().remarks;
}

void tellApplied(const Session& session, const Brief& brief, const AppliedBrief& applied,
                 const BriefsOptions& options) {
  std::vector<Remark> findings = findingsOf(session, brief.name);
  Json missing = Json::array();
  for (const MissingThing& thing : applied.missing) {
    missing.push_back(thing.words());
    findings.push_back(thing.remark());
  }
  if (options.json)
    return printJson({{"event", "brief"},
                      {"name", brief.name},
                      {"result", applied.isReplaced ? "replaced" : "added"},
                      {"missing", missing},
                      {"remarks", cli::asJson(findings)}});
  std::printf("%s: %s\n", applied.isReplaced ? "replaced" : "added", printable(brief.name).c_str());
  for (const Remark& finding : findings)
    std::printf("  %s: %s\n", std::string(severityName(finding.severity)).c_str(),
                printable(finding.text, 600).c_str());
}

Result<BriefFile> briefsToApply(const BriefsOptions& options) {
  OCTAPHON_ASSIGN(const std::string text, readFile(options.applyFrom, kMaxBriefBytes));
  OCTAPHON_ASSIGN(BriefFile file, readBriefs(text, options.applyFrom));
  std::erase_if(file.briefs, [&](const Brief& brief) {
    return !options.briefs.empty() &&
           std::find(options.briefs.begin(), options.briefs.end(), brief.name) == options.briefs.end();
  });
  if (file.briefs.empty())
    return fail(ErrorCode::UnknownName, options.applyFrom, "there is no such brief in the file",
                "Leave --brief out for all that it has");
  return file;
}

/// The session is read when it is locked: what another program saves before is not lost.
int apply(const BriefsOptions& options) {
  const auto lock = SessionLock::take(options.session);
  if (!lock) return fails(lock.error(), kFailed, options.json);
  auto session = loadSession(options.session);
  if (!session) return fails(session.error(), kSessionUnreadable, options.json);
  const auto file = briefsToApply(options);
  if (!file)
    return fails(file.error(), file.error().code == ErrorCode::UnknownName ? kWrongUsage : kFailed,
                 options.json);
  std::vector<AppliedBrief> applied;
  for (const Brief& brief : file->briefs) applied.push_back(applyBrief(*session, brief, file->names));
  if (const auto mistake = mistakeIn(*session))
    return fails({ErrorCode::BadValue, options.applyFrom + ": " + mistake->key, mistake->text, mistake->cure},
                 kFailed, options.json);
  if (!options.dryRun)
    if (const auto saved = saveSession(*session, options.session); !saved)
      return fails(saved.error(), kFailed, options.json);
  for (std::size_t i = 0; i < applied.size(); ++i)
    tellApplied(*session, file->briefs[i], applied[i], options);
  return kWell;
}

int runBriefs(const BriefsOptions& options) {
  if (!options.applyFrom.empty()) return apply(options);
  const auto session = loadSession(options.session);
  if (!session) return fails(session.error(), kSessionUnreadable, options.json);
  return options.exportTo.empty() ? list(*session, options) : exportBriefs(*session, options);
}

}  // namespace

void addBriefs(CLI::App& app, int& exit) {
  auto options = std::make_shared<BriefsOptions>();
  CLI::App* command =
      app.add_subcommand("briefs", "Lists briefs, or takes them out of a session and into it");
  command->add_option("session", options->session, "Session file (*.octaphon)")->required();
  command->add_option("--brief", options->briefs, "Only the brief of this name; may be given several times")
      ->allow_extra_args(false);
  auto* group = command->add_option_group("what to do");
  group->add_flag("--list", options->list, "Print them");
  group->add_flag("--names", options->names, "Print their names alone, one a line");
  group->add_option("--export", options->exportTo,
                    "Write them to a file (*.octaphon-brief), or - for standard output");
  group->add_option("--apply", options->applyFrom,
                    "Take those of a file into the session; one of the same name is replaced");
  group->require_option(1);
  command->add_flag("--dry-run", options->dryRun, "With --apply: only say what would come of it");
  command->add_flag("--json", options->json, "Print JSON for programs");
  command->callback([options, &exit] { exit = runBriefs(*options); });
}

}  // namespace octaphon::cli
