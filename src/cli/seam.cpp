#include "seam.h"

#include <cstdio>

#include <CLI/CLI.hpp>

#include "base/unicode.h"
#include "check/file_seam.h"
#include "common.h"
#include "run/region_seam.h"
#include "run/worker_passes.h"

namespace octaphon::cli {
namespace {

struct SeamOptions {
  std::string file, region;
  Frame start = -1, length = -1;
  double searchMs = 0;
  bool json = false;
};

void printText(const FoundSeam& found) {
  const auto line = [](const LoopPlace& place, const Seam& seam) {
    std::printf("%5.1f  from frame %lld, %lld frames  %s\n", seam.score, static_cast<long long>(place.start),
                static_cast<long long>(place.length), seamText(seam).c_str());
  };
  line(found.place, found.seam);
  if (!found.candidates.empty()) std::printf("better and worse places nearby:\n");
  for (const LoopCandidate& candidate : found.candidates) line(candidate.place, candidate.seam);
}

void printAsJson(const FoundSeam& found) {
  Json json = cli::asJson(found.seam);
  json["start"] = found.place.start;
  json["length"] = found.place.length;
  json["rate"] = found.rate();
  json["text"] = seamText(found.seam);
  json["candidates"] = Json::array();
  for (const LoopCandidate& candidate : found.candidates)
    json["candidates"].push_back({{"start", candidate.place.start},
                                  {"length", candidate.place.length},
                                  {"score", candidate.seam.score}});
  printJson(json);
}

void print(const FoundSeam& answer, bool json) { json ? printAsJson(answer) : printText(answer); }

int runOnFile(const SeamOptions& options) {
  std::optional<LoopPlace> place;
  if (options.start >= 0 && options.length > 0) place = LoopPlace{options.start, options.length};
  const auto found = seamOf(options.file, place, options.searchMs);
  if (!found) return fails(found.error(), kFailed, options.json);
  print(*found, options.json);
  return kWell;
}

int runOnRegion(const SeamOptions& options) {
  MediaCache cache(MediaCache::defaultFolder());
  const auto opened = openSession(options.file, cache, options.json);
  if (!opened) return kSessionUnreadable;
  WorkerPasses plugins;
  const std::atomic<bool> cancel = false;
  bool isThere = false;
  for (const Region& region : opened->session->regions) {
    if (region.name != options.region) continue;
    isThere = true;
    const RegionSeamQuestion question{
        opened->session, opened->facts, opened->plugins, &plugins, {region.start, region.length},
        options.searchMs};
    const auto found = seamOf(question, cache, cancel);
    if (!found) return fails(found.error(), kFailed, options.json);
    print(*found, options.json);
  }
  if (isThere) return kWell;
  return fails({ErrorCode::UnknownName, "region '" + printable(options.region, 60) + "'",
                "the session has no region of this name", "octaphon-cli regions lists them"},
               kWrongUsage, options.json);
}

}  // namespace

void addSeam(CLI::App& app, int& exit) {
  auto options = std::make_shared<SeamOptions>();
  CLI::App* command = app.add_subcommand("seam", "Measures how good the join of a loop is, 0 to 100");
  command->add_option("file", options->file, "Audio file, or with --region a session (*.octaphon)")
      ->required();
  CLI::Option* start = command->add_option("--start", options->start, "First frame of the loop")
                           ->check(CLI::Range(Frame{0}, kMaxFrame));
  command
      ->add_option("--length", options->length,
                   "Frames of the loop; without both: the loop that a WAV names, or the whole")
      ->check(CLI::Range(Frame{1}, kMaxFrame))
      ->needs(start);
  start->needs("--length");
  command->add_option("--region", options->region, "The region of this name, as the session's mix gives it")
      ->excludes(start);
  command->add_option("--search", options->searchMs, "Look for better places, so many ms to either side")
      ->check(CLI::Range(0.0, kMaxSearchSeconds * 1000));
  command->add_flag("--json", options->json, "Print JSON for programs");
  command->callback(
      [options, &exit] { exit = options->region.empty() ? runOnFile(*options) : runOnRegion(*options); });
}

}  // namespace octaphon::cli
