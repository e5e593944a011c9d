#include "run/plugin_trials.h"

#include <algorithm>
#include <cstdlib>
#include <set>
#include <sstream>

#include "base/files.h"
#include "base/pending_file.h"
#include "run/plugin_json.h"
#include "run/worker_process.h"

namespace octaphon {
namespace {

namespace fs = std::filesystem;
using nlohmann::json;

constexpr int kVersion = 1;  // of the file, and of how plug-ins are tried
constexpr std::uint64_t kMostBytes = 64u << 20;
constexpr std::size_t kMostTrials = 512;
constexpr const char* kUsualPlaces =
    "/.lv2:/usr/local/lib/lv2:/usr/lib/lv2:/usr/lib/x86_64-linux-gnu/lv2:"
    "/usr/lib/aarch64-linux-gnu/lv2:/usr/lib64/lv2";

std::vector<fs::path> places() {
  const char *set = std::getenv("LV2_PATH"), *home = std::getenv("HOME");
  std::istringstream all(set != nullptr ? set : std::string(home == nullptr ? "" : home) + kUsualPlaces);
  std::vector<fs::path> found;
  for (std::string place; std::getline(all, place, ':');) found.emplace_back(place);
  return found;
}

std::vector<fs::path> sortedIn(const fs::path& folder) {
  std::vector<fs::path> entries;
  std::error_code problem;
  for (fs::directory_iterator it(folder, problem), end; !problem && it != end; it.increment(problem))
    entries.push_back(it->path());
  std::sort(entries.begin(), entries.end());
  return entries;
}

void add(Hasher& hasher, const fs::path& file) {
  hasher.add(file.native());
  if (const auto identity = identityOf(file)) {
    hasher.add(identity->size);
    hasher.add(identity->modified);
  }
}

}  // namespace

Digest installedFingerprint() {
  Hasher hasher;
  add(hasher, workerProgram());
  for (const fs::path& place : places())
    for (const fs::path& bundle : sortedIn(place))
      for (const fs::path& file : sortedIn(bundle)) add(hasher, file);
  return hasher.digest();
}

PluginTrials::PluginTrials(fs::path file) : file_(std::move(file)), installed_(installedFingerprint()) {
  const auto text = readFile(file_, kMostBytes);
  if (!text) return;
  try {
    const json kept = json::parse(*text);
    if (kept.at("version") != kVersion || kept.at("installed") != installed_.hex()) return;
    for (const auto& [key, trial] : kept.at("trials").items())
      trials_[key] = {trial.at("uri"), trial.at("outcome"), trial.at("problem"), false};
  } catch (const json::exception&) {
    trials_.clear();
  }
}

std::string PluginTrials::keyOf(const Insert& insert, int rate) {
  json whole = asJson(insert);
  whole["rate"] = rate;
  Hasher hasher;
  hasher.add(whole.dump(-1, ' ', false, json::error_handler_t::replace));
  return hasher.digest().hex();
}

bool PluginTrials::tell(const Insert& insert, PluginCatalogue& catalogue) {
  const auto found = trials_.find(keyOf(insert, catalogue.rate()));
  if (found == trials_.end()) return false;
  found->second.isAsked = true;
  if (!found->second.problem.empty()) {
    catalogue.addProblem(insert, found->second.problem);
    return true;
  }
  try {
    catalogue.add(insert, effectFrom(json::parse(found->second.outcome)));
    return true;
  } catch (const json::exception&) {
    return false;
  }
}

void PluginTrials::note(const Insert& insert, int rate, const EffectInfo& info) {
  trials_[keyOf(insert, rate)] = {
      insert.effect, asJson(info).dump(-1, ' ', false, json::error_handler_t::replace), {}, true};
}

void PluginTrials::noteProblem(const Insert& insert, int rate, const std::string& why) {
  trials_[keyOf(insert, rate)] = {insert.effect, {}, why, true};
}

void PluginTrials::save() {
  // Each place of a knob is a trial.
  if (trials_.size() > kMostTrials)
    std::erase_if(trials_, [](const auto& trial) { return !trial.second.isAsked; });
  json kept{{"version", kVersion}, {"installed", installed_.hex()}, {"trials", json::object()}};
  for (const auto& [key, trial] : trials_)
    kept["trials"][key] = {{"uri", trial.uri}, {"outcome", trial.outcome}, {"problem", trial.problem}};
  std::error_code problem;
  fs::create_directories(file_.parent_path(), problem);
  (void)replaceFile(file_, kept.dump(-1, ' ', false, json::error_handler_t::replace));
}

std::vector<PluginTrials::Failed> PluginTrials::failed() const {
  std::vector<Failed> all;
  std::set<std::string> uris;
  for (const auto& [key, trial] : trials_)
    if (!trial.problem.empty() && uris.insert(trial.uri).second) all.push_back({trial.uri, trial.problem});
  return all;
}

}  // namespace octaphon
