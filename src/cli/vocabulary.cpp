#include "vocabulary.h"

#include <cstdio>

#include <CLI/CLI.hpp>

#include "base/unicode.h"
#include "common.h"
#include "edit/findings.h"
#include "exchange/vocabulary_table.h"
#include "session/session_file.h"
#include "table_file.h"

namespace octaphon::cli {
namespace {

struct VocabularyOptions {
  std::string session, exportTo, importFrom;
  bool check = false;
  bool json = false;
};

int exportVocabulary(const Session& session, const std::string& file) {
  return exportTable(writeVocabulary(session.vocabulary), file, counted(session.vocabulary.size(), "fact"));
}

int importVocabulary(const VocabularyOptions& options) {
  std::size_t facts = 0;
  const int exit = importTable(
      options.session, options.importFrom, [&](Session& session, std::string_view table) -> Result<void> {
        OCTAPHON_ASSIGN(session.vocabulary, readVocabulary(table, options.importFrom));
        facts = session.vocabulary.size();
        return {};
      });
  if (exit == kWell) std::printf("The vocabulary has %s now\n", counted(facts, "fact").c_str());
  return exit;
}

/// Regions and clip sets that say what it does not allow.
int check(const Session& session, bool json) {
  std::size_t found = 0;
  for (const Finding& finding : checkSession(session, nullptr)) {
    if (finding.kind != FindingKind::OutsideVocabulary) continue;
    ++found;
    if (json)
      printJson({{"event", "outside-vocabulary"}, {"id", finding.place}, {"text", finding.text}});
    else
      std::printf("%s\n", printable(finding.text, 600).c_str());
  }
  if (!json) std::printf("%s outside the vocabulary\n", counted(found, "thing").c_str());
  return found > 0 ? kFailed : kWell;
}

int runVocabulary(const VocabularyOptions& options) {
  if (!options.importFrom.empty()) return importVocabulary(options);
  const auto session = loadSession(options.session);
  if (!session) return fails(session.error(), kSessionUnreadable, options.json);
  return options.check ? check(*session, options.json) : exportVocabulary(*session, options.exportTo);
}

}  // namespace

void addVocabulary(CLI::App& app, int& exit) {
  auto options = std::make_shared<VocabularyOptions>();
  CLI::App* command = app.add_subcommand(
      "vocabulary", "Writes or reads the facts that regions may have and what they may say, or checks them");
  command->add_option("session", options->session, "Session file (*.octaphon)")->required();
  CLI::Option_group* way = command->add_option_group("way");
  way->add_option("--export", options->exportTo, "Write it as a table (CSV); - is standard output");
  way->add_option("--import", options->importFrom, "Read it from a table (CSV), in place of what is there");
  way->add_flag("--check", options->check, "Tell which regions and clip sets say something else");
  way->require_option(1);
  command->add_flag("--json", options->json, "Print what the check finds as JSON, an object a line");
  command->callback([options, &exit] { exit = runVocabulary(*options); });
}

}  // namespace octaphon::cli
