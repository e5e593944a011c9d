// What all subcommands share: exit codes, loading, printing.
#pragma once

#include <cstdio>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include <nlohmann/json.hpp>

#include "base/remark.h"
#include "base/result.h"
#include "level/levels.h"
#include "loop/seam.h"
#include "media/media_cache.h"
#include "media/media_facts.h"
#include "plan/planner.h"
#include "session/session.h"

namespace octaphon::cli {

using Json = nlohmann::ordered_json;

enum Exit : int { kWell = 0, kFailed = 1, kWrongUsage = 2, kSessionUnreadable = 3 };
inline constexpr const char* kExitText =
    "Exit codes: 0 all went well; 1 some of it failed; 2 wrong usage, or a name that the session does not "
    "have;\n"
    "3 the session cannot be read.";

/// A session as every subcommand begins with it.
struct Opened {
  std::shared_ptr<const Session> session;
  std::shared_ptr<const MediaFacts> facts;
  std::shared_ptr<const PluginCatalogue> plugins;
};
/// Tells the error and gives nothing where the session cannot be read.
std::optional<Opened> openSession(const std::string& file, MediaCache& cache, bool json);

/// Options that `plan` and `render` share.
struct BriefOptions {
  std::string session;
  std::vector<std::string> briefs;
  std::string out;
  std::vector<std::string> set = {};  ///< `[BRIEF:]key=value`
  bool json = false;
  bool thorough = false;
  bool numberAgain = false;
};
/// Sets what `--set` says, in this run's session alone. Tells the error where something is not known.
bool applySettings(Opened& opened, const std::vector<std::string>& settings, bool json);
/// Tells the error and gives nothing where a brief is not known.
std::optional<PlanRequest> requestOf(const Session& session, const BriefOptions& options);

/// What people read: standard error as the program was given it. Libraries that print there print nowhere,
/// unless OCTAPHON_TALKS is set.
std::FILE* messages();
void quietenLibraries();

/// One line for people; with `json` an object for programs too.
void printError(const Error& error, bool json = false);
/// The same, and gives the exit code.
int fails(const Error& error, Exit exit, bool json = false);
/// Of all objects that are printed: readers know keys of the same first number.
inline constexpr const char* kJsonVersion = "1.0";
/// One line on standard output, at once, with its version.
void printJson(const Json& json);
Json asJson(const Remark& remark);
Json asJson(const std::vector<Remark>& remarks);
Json asJson(const Seam& seam);
/// `peak_db`, `true_peak_db`, `lufs`, `range_lu`; null where it is not known.
Json asJson(const Levels& levels);
Json orNull(const std::optional<double>& number);
/// One line of JSON. What would move text on a terminal is escaped.
std::string jsonText(const Json& json);

/// The exit code, or kFailed where standard output could not be written.
int withOutputChecked(int exit);

}  // namespace octaphon::cli
