#include "info.h"

#include <cstdio>

#include <CLI/CLI.hpp>

#include "base/unicode.h"
#include "common.h"

namespace octaphon::cli {
namespace {

struct InfoOptions {
  std::string session;
  bool json = false;
};

std::vector<std::string> mediaIn(const Opened& opened, MediumFact::State state) {
  std::vector<std::string> files;
  for (const Medium& medium : opened.session->media)
    if (const MediumFact* fact = opened.facts->find(medium.id); fact != nullptr && fact->state == state)
      files.push_back(medium.file);
  return files;
}

void printText(const Session& session, const std::vector<std::string>& missing,
               const std::vector<std::string>& unreadable, const std::vector<std::string>& different) {
  std::printf("%s, %d Hz, %s\n", printable(session.displayName()).c_str(), session.rate,
              timeText(session.end(), session.rate).c_str());
  std::printf("%s, %s, %s, %s, %s\n", counted(session.tracks.size(), "track").c_str(),
              counted(session.clipCount(), "clip").c_str(), counted(session.regions.size(), "region").c_str(),
              counted(session.markerCount(), "marker").c_str(),
              counted(session.briefs.size(), "brief").c_str());
  for (const Brief& brief : session.briefs) std::printf("  brief: %s\n", printable(brief.name).c_str());
  for (const std::string& file : missing) std::printf("  missing: %s\n", printable(file).c_str());
  for (const std::string& file : unreadable) std::printf("  cannot be read: %s\n", printable(file).c_str());
  for (const std::string& file : different)
    std::printf("  not what the session knows: %s\n", printable(file).c_str());
}

int runInfo(const InfoOptions& options) {
  MediaCache cache(MediaCache::defaultFolder());
  const auto opened = openSession(options.session, cache, options.json);
  if (!opened) return kSessionUnreadable;
  const Session& session = *opened->session;
  const auto missing = mediaIn(*opened, MediumFact::State::Missing);
  const auto unreadable = mediaIn(*opened, MediumFact::State::Unreadable);
  const auto different = mediaIn(*opened, MediumFact::State::Different);
  if (options.json)
    printJson({{"rate", session.rate},
               {"tracks", session.tracks.size()},
               {"clips", session.clipCount()},
               {"regions", session.regions.size()},
               {"markers", session.markerCount()},
               {"briefs", session.briefs.size()},
               {"missing_media", missing},
               {"unreadable_media", unreadable},
               {"different_media", different}});
  else
    printText(session, missing, unreadable, different);
  return kWell;
}

}  // namespace

void addInfo(CLI::App& app, int& exit) {
  auto options = std::make_shared<InfoOptions>();
  CLI::App* command = app.add_subcommand("info", "Says what is in a session");
  command->add_option("session", options->session, "Session file (*.octaphon)")->required();
  command->add_flag("--json", options->json, "Print one JSON object");
  command->callback([options, &exit] { exit = runInfo(*options); });
}

}  // namespace octaphon::cli
