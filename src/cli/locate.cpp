#include "locate.h"

#include <cstdio>
#include <filesystem>

#include <CLI/CLI.hpp>

#include "base/unicode.h"
#include "common.h"
#include "handover/locate.h"

namespace octaphon::cli {
namespace {

struct LocateOptions {
  std::string file;
  std::vector<std::string> folders, sessions;
  bool json = false;
};

LocateRequest requestOf(const LocateOptions& options) {
  LocateRequest request{options.file};
  request.deliveries.assign(options.folders.begin(), options.folders.end());
  request.sessions.assign(options.sessions.begin(), options.sessions.end());
  addKnownDeliveries(request);
  return request;
}

Json asJson(const std::string& file, const Located& found) {
  const MadePlace& place = found.made.place;
  const bool hasPlace = place.sessionRate > 0;
  return {{"file", file},
          {"found", true},
          {"by", foundByName(found.by)},
          {"session", found.session.empty() ? Json(nullptr) : Json(found.session.string())},
          {"session_name", found.sessionName},
          {"folder", found.folder.string()},
          {"brief", found.brief},
          {"key", found.key},
          {"name", found.file},
          {"edition", found.edition == 0 ? Json(nullptr) : Json(found.edition)},
          {"span", found.made.span},
          {"source", found.made.source},
          {"start", hasPlace ? Json(place.start) : Json(nullptr)},
          {"session_rate", hasPlace ? Json(place.sessionRate) : Json(nullptr)},
          {"as_delivered", found.isAsDelivered}};
}

void printText(const std::string& file, const Located& found) {
  const MadePlace& place = found.made.place;
  std::printf("%s\n  %s, %s%s\n  brief %s, delivered as %s into %s\n  session %s%s\n",
              printable(file, 400).c_str(), printable(found.made.span).c_str(),
              printable(found.made.source).c_str(),
              place.sessionRate > 0 ? (", at " + timeText(place.start, place.sessionRate)).c_str() : "",
              printable(found.brief).c_str(), printable(found.file, 400).c_str(),
              printable(found.folder.string(), 400).c_str(),
              printable(found.session.empty() ? found.sessionName : found.session.string(), 400).c_str(),
              found.session.empty() ? ", which was not found: name it with --session" : "");
  if (!found.isAsDelivered) std::printf("  it was altered since, or made anew\n");
}

int runLocate(const LocateOptions& options) {
  const auto found = locate(requestOf(options));
  if (!found) return fails(found.error(), kFailed, options.json);
  if (!*found) {
    if (options.json) printJson({{"file", options.file}, {"found", false}});
    std::fprintf(
        messages(),
        "octaphon-cli: %s: no receipt knows this file. Name the folder it was delivered into with --in\n",
        printable(options.file, 400).c_str());
    return kFailed;
  }
  if (options.json)
    printJson(asJson(options.file, **found));
  else
    printText(options.file, **found);
  return kWell;
}

}  // namespace

void addLocate(CLI::App& app, int& exit) {
  auto options = std::make_shared<LocateOptions>();
  CLI::App* command = app.add_subcommand(
      "locate", "Finds the row and the session that a delivered file is of, even if it was renamed");
  command->add_option("file", options->file, "Audio file")->required();
  command->add_option("--in", options->folders, "A folder that it may have been delivered into")
      ->allow_extra_args(false);
  command->add_option("--session", options->sessions, "A session that it may be of")->allow_extra_args(false);
  command->add_flag("--json", options->json, "Print JSON for programs");
  command->callback([options, &exit] { exit = runLocate(*options); });
}

}  // namespace octaphon::cli
