#include "commands.h"

#include <CLI/CLI.hpp>

#include "briefs.h"
#include "cache.h"
#include "check.h"
#include "clean.h"
#include "collect.h"
#include "common.h"
#include "info.h"
#include "inspect.h"
#include "locate.h"
#include "log_level.h"
#include "measure.h"
#include "media.h"
#include "names.h"
#include "new.h"
#include "plan.h"
#include "regions.h"
#include "render.h"
#include "report.h"
#include "seam.h"
#include "status.h"
#include "vocabulary.h"

namespace octaphon::cli {
namespace {

/// What values are called in help, manuals and completions.
constexpr struct {
  const char *option, *value;
} kValueNames[]{{"--apply", "FILE"},      {"--before", "FOLDER"},   {"--brief", "NAME"},
                {"--cue", "FILE"},        {"--csv", "FILE"},        {"--export", "FILE"},
                {"--html", "FILE"},       {"--import", "FILE"},     {"--in", "FOLDER"},
                {"--jobs", "N"},          {"--json", "FILE"},       {"--length", "FRAMES"},
                {"--manifest", "FILE"},   {"--measured", "FILE"},   {"--midi", "FILE"},
                {"--only", "PATTERN"},    {"--out", "FOLDER"},      {"--paper", "SIZE"},
                {"--pdf", "FILE"},        {"--rate", "HZ"},         {"--region", "NAME"},
                {"--search", "MS"},       {"--session", "SESSION"}, {"--set", "[BRIEF:]KEY=VALUE"},
                {"--spool-memory", "MB"}, {"--start", "FRAME"},     {"--sums", "FILE"},
                {"--table", "FILE"},      {"--take-as-is", "FILE"}, {"--template", "TEMPLATE"},
                {"--write", "FILE"}};

void nameValues(CLI::App& app) {
  for (CLI::Option* option : app.get_options())
    for (const auto& [name, value] : kValueNames)
      if (option->get_name() == name && option->get_items_expected_max() > 0) option->type_name(value);
  for (CLI::App* below : app.get_subcommands({})) nameValues(*below);
}

}  // namespace

void describeCommands(CLI::App& app, int& exit) {
  app.description("Octaphon: many named files from one session");
  app.name("octaphon-cli");
  app.set_version_flag("--version", OCTAPHON_VERSION);
  app.require_subcommand(1);
  addLogLevel(app);
  app.fallthrough();  // what concerns all of them may stand behind the command, too
  app.footer(kExitText);
  for (const auto add :
       {addNew, addInfo, addMedia, addRegions, addNames, addPlan, addRender, addStatus, addCheck, addReport,
        addCollect, addLocate, addMeasure, addBriefs, addClean, addSeam, addInspect, addVocabulary, addCache})
    add(app, exit);
  for (CLI::App* command : app.get_subcommands({})) command->footer(kExitText);
  nameValues(app);
}

}  // namespace octaphon::cli
