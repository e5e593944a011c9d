// What all subcommands share: exit codes, loading, printing.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include <nlohmann/json.hpp>

#include "base/remark.h"
#include "base/result.h"
#include "media/media_cache.h"
#include "media/media_facts.h"
#include "plan/planner.h"
#include "session/session.h"

namespace octaphon::cli {

using Json = nlohmann::ordered_json;

enum Exit : int { kWell = 0, kRowsFailed = 1, kWrongUsage = 2, kSessionUnreadable = 3 };

/// A session as every subcommand begins with it.
struct Opened {
  std::shared_ptr<const Session> session;
  std::shared_ptr<const MediaFacts> facts;
  std::shared_ptr<const PluginCatalogue> plugins;
};
/// Prints the error and gives nothing where the session cannot be read.
std::optional<Opened> openSession(const std::string& file, MediaCache& cache);

/// Options that `plan` and `render` share.
struct BriefOptions {
  std::string session;
  std::vector<std::string> briefs;
  std::string out;
  bool json = false;
};
/// Prints the error and gives nothing where a brief is not known.
std::optional<PlanRequest> requestOf(const Session& session, const BriefOptions& options);

void printError(const Error& error);  ///< one line on standard error
void printJson(const Json& json);     ///< one line on standard output, at once
Json asJson(const Remark& remark);
Json asJson(const std::vector<Remark>& remarks);

}  // namespace octaphon::cli
