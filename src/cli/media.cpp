#include "media.h"

#include <cstdio>

#include <CLI/CLI.hpp>

#include "base/unicode.h"
#include "common.h"
#include "edit/media.h"
#include "session/session_file.h"
#include "session/session_lock.h"

namespace octaphon::cli {
namespace {

struct MediaOptions {
  std::string session;
  std::vector<std::string> take;
  bool takeAll = false;
  bool json = false;
};

const char* stateName(MediumFact::State state) {
  switch (state) {
    case MediumFact::State::Ready: return "ready";
    case MediumFact::State::Missing: return "missing";
    case MediumFact::State::Unreadable: return "unreadable";
    case MediumFact::State::Different: return "different";
  }
  return "";
}

/// What is wrong with it, or worth knowing; may be empty.
std::string textOf(const MediumFact& fact) {
  return fact.problem.empty() ? flawText(fact.flaw) : fact.problem;
}

int show(const Opened& opened, bool json) {
  Json list = Json::array();
  for (const Medium& medium : opened.session->media) {
    const MediumFact& fact = *opened.facts->find(medium.id);
    if (json)
      list.push_back({{"key", medium.id},
                      {"file", medium.file},
                      {"state", stateName(fact.state)},
                      {"frames", fact.info.frames},
                      {"rate", fact.info.rate},
                      {"channels", fact.info.channels},
                      {"text", textOf(fact)}});
    else
      std::printf("%-10s  %s%s\n", stateName(fact.state), printable(medium.file, 300).c_str(),
                  textOf(fact).empty() ? "" : ("\n            " + printable(textOf(fact), 600)).c_str());
  }
  if (json) printJson({{"media", std::move(list)}});
  return kWell;
}

bool isAsked(const MediaOptions& options, const Medium& medium) {
  return options.takeAll ||
         std::any_of(options.take.begin(), options.take.end(),
                     [&](const std::string& given) { return given == medium.id || given == medium.file; });
}

/// Names that are no medium's.
std::size_t countUnknown(const Session& session, const MediaOptions& options) {
  std::size_t unknown = 0;
  for (const std::string& given : options.take) {
    const bool isThere = std::any_of(session.media.begin(), session.media.end(), [&](const Medium& medium) {
      return given == medium.id || given == medium.file;
    });
    if (isThere) continue;
    ++unknown;
    printError({ErrorCode::UnknownName, "'" + given + "'", "the session has no such medium",
                "Name it as the session does; 'media' alone lists them"},
               options.json);
  }
  return unknown;
}

int take(const MediaOptions& options, MediaCache& cache) {
  const auto lock = SessionLock::take(options.session);
  if (!lock) return fails(lock.error(), kFailed, options.json);
  const auto opened = openSession(options.session, cache, options.json);
  if (!opened) return kSessionUnreadable;
  if (countUnknown(*opened->session, options) > 0) return kWrongUsage;
  Session session = *opened->session;
  std::size_t taken = 0;
  for (const Medium& medium : opened->session->media)
    if (isAsked(options, medium) && takeAsItIs(session, medium.id, *opened->facts->find(medium.id))) ++taken;
  if (taken > 0)
    if (auto saved = saveSession(session, options.session); !saved)
      return fails(saved.error(), kFailed, options.json);
  if (options.json)
    printJson({{"taken", taken}});
  else
    std::printf("%s taken as %s\n", counted(taken, "file").c_str(), taken == 1 ? "it is" : "they are");
  return kWell;
}

int runMedia(const MediaOptions& options) {
  MediaCache cache(MediaCache::defaultFolder());
  if (options.takeAll || !options.take.empty()) return take(options, cache);
  const auto opened = openSession(options.session, cache, options.json);
  return opened ? show(*opened, options.json) : kSessionUnreadable;
}

}  // namespace

void addMedia(CLI::App& app, int& exit) {
  auto options = std::make_shared<MediaOptions>();
  CLI::App* command =
      app.add_subcommand("media", "Lists the files that a session hears, or takes them as they are");
  command->add_option("session", options->session, "Session file (*.octaphon)")->required();
  command
      ->add_option("--take-as-is", options->take, "From now on this file is the one that the session means")
      ->allow_extra_args(false);
  command->add_flag("--take-all-as-is", options->takeAll,
                    "The same for all that are not what the session knows");
  command->add_flag("--json", options->json, "Print JSON for programs");
  command->callback([options, &exit] { exit = runMedia(*options); });
}

}  // namespace octaphon::cli
