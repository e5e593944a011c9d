#include "seam.h"

#include <cstdio>

#include <CLI/CLI.hpp>

#include "base/unicode.h"
#include "check/file_seam.h"
#include "common.h"

namespace octaphon::cli {
namespace {

struct Options {
  std::string file;
  Frame start = -1, length = -1;
  double searchMs = 0;
  bool json = false;
};

void printText(const FileSeam& found) {
  const auto line = [](const LoopPlace& place, const Seam& seam) {
    std::printf("%5.1f  from frame %lld, %lld frames  %s\n", seam.score, static_cast<long long>(place.start),
                static_cast<long long>(place.length), seamText(seam).c_str());
  };
  line(found.place, found.seam);
  if (!found.candidates.empty()) std::printf("better and worse places nearby:\n");
  for (const LoopCandidate& candidate : found.candidates) line(candidate.place, candidate.seam);
}

void printAsJson(const FileSeam& found) {
  Json json = asJson(found.seam);
  json["start"] = found.place.start;
  json["length"] = found.place.length;
  json["rate"] = found.rate;
  json["text"] = seamText(found.seam);
  json["candidates"] = Json::array();
  for (const LoopCandidate& candidate : found.candidates)
    json["candidates"].push_back({{"start", candidate.place.start},
                                  {"length", candidate.place.length},
                                  {"score", candidate.seam.score}});
  printJson(json);
}

int runOnFile(const Options& options) {
  std::optional<LoopPlace> place;
  if (options.start >= 0 && options.length > 0) place = LoopPlace{options.start, options.length};
  const auto found = seamOf(options.file, place, options.searchMs);
  if (!found) return fails(found.error(), kFailed, options.json);
  options.json ? printAsJson(*found) : printText(*found);
  return kWell;
}

}  // namespace

void addSeam(CLI::App& app, int& exit) {
  auto options = std::make_shared<Options>();
  CLI::App* command = app.add_subcommand("seam", "Measures how good the join of a loop is, 0 to 100");
  command->add_option("file", options->file, "Audio file")->required();
  CLI::Option* start = command->add_option("--start", options->start, "First frame of the loop")
                           ->check(CLI::Range(Frame{0}, kMaxFrame));
  command
      ->add_option("--length", options->length,
                   "Frames of the loop; without both: the loop that a WAV names, or the whole")
      ->check(CLI::Range(Frame{1}, kMaxFrame))
      ->needs(start);
  start->needs("--length");
  command->add_option("--search", options->searchMs, "Look for better places, so many ms to either side")
      ->check(CLI::Range(0.0, kMaxSearchSeconds * 1000));
  command->add_flag("--json", options->json, "Print JSON for programs");
  command->callback([options, &exit] { exit = runOnFile(*options); });
}

}  // namespace octaphon::cli
