#include "collect.h"

#include <algorithm>
#include <cstdio>
#include <filesystem>

#include <CLI/CLI.hpp>

#include "base/unicode.h"
#include "common.h"
#include "handover/results_session.h"
#include "new_file.h"
#include "session/session_file.h"

namespace octaphon::cli {
namespace {

struct CollectOptions {
  std::string folder, session;
  std::vector<std::string> briefs;
};

int runCollect(const CollectOptions& options) {
  if (const auto problem = whyNoNewFile(options.session)) return fails(*problem, kWrongUsage);
  DeliveryRequest request{{options.folder}};
  request.briefs.insert(options.briefs.begin(), options.briefs.end());
  const auto delivery = readDelivery(request);
  if (!delivery) return fails(delivery.error(), kFailed);
  const auto results = sessionOfResults(*delivery, options.session);
  if (!results) return fails(results.error(), kFailed);
  for (const Error& error : results->left) printError(error);
  if (const auto saved = saveSession(results->session, options.session); !saved)
    return fails(saved.error(), kFailed);
  std::printf("%s: %s on %s, %s, %d Hz\n", printable(options.session).c_str(),
              counted(results->files, "file").c_str(),
              counted(static_cast<std::size_t>(
                          std::count_if(results->session.tracks.begin(), results->session.tracks.end(),
                                        [](const Track& track) { return track.holdsClips(); })),
                      "track")
                  .c_str(),
              counted(results->session.regions.size(), "region").c_str(), results->session.rate);
  return results->left.empty() ? kWell : kFailed;
}

}  // namespace

void addCollect(CLI::App& app, int& exit) {
  auto options = std::make_shared<CollectOptions>();
  CLI::App* command = app.add_subcommand(
      "collect", "Makes a session of what was delivered into a folder: the files on tracks, where they were");
  command->add_option("folder", options->folder, "Folder that files were delivered into")->required();
  command->add_option("session", options->session, "Session file to make (*.octaphon)")->required();
  command->add_option("--brief", options->briefs, "Only the brief of this id; may be given several times")
      ->allow_extra_args(false);
  command->callback([options, &exit] { exit = runCollect(*options); });
}

}  // namespace octaphon::cli
