// octaphon-bench-large SESSION: how long a large session takes to open, to plan and to look up, a median of
// several.
#include <algorithm>
#include <chrono>
#include <cstdio>
#include <functional>

#include "brief/chooser.h"
#include "plan/row_names.h"
#include "run/live_sheet.h"
#include "session/session_file.h"

namespace {

double medianMs(const std::function<void()>& work) {
  std::vector<double> times;
  for (int i = 0; i < 5; ++i) {
    const auto begin = std::chrono::steady_clock::now();
    work();
    times.push_back(
        std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - begin).count());
  }
  std::sort(times.begin(), times.end());
  return times[2];
}

}  // namespace

int main(int argc, char** argv) {
  using namespace octaphon;
  if (argc != 2) return 2;
  auto session = loadSession(argv[1]);
  if (!session) {
    std::fprintf(stderr, "%s\n", session.error().describe().c_str());
    return 1;
  }
  MediaCache cache(MediaCache::defaultFolder());
  const auto facts = gatherFacts(*session, cache);
  PlanRequest request;
  request.briefs = {0};
  Session wide = *session;  // every source has a clip in every region
  for (Track& track : wide.tracks) {
    const auto ids = wide.briefs[0].what.tracks.handPicked().value_or(std::vector<std::string>{});
    if (std::find(ids.begin(), ids.end(), track.id) == ids.end()) continue;
    const Clip first = track.clips[0];
    track.clips = std::vector<Clip>(wide.regions.size(), first);
    for (std::size_t i = 0; i < track.clips.size(); ++i) track.clips[i].start = wide.regions[i].start;
  }
  std::printf("open                %8.1f ms\n", medianMs([&] { (void)loadSession(argv[1]); }));
  Sheet sheet;
  std::printf("copy                %8.1f ms\n", medianMs([&] {
                const Session copy = *session;
                (void)copy;
              }));
  const double narrow = medianMs([&] { sheet = planSheet(*session, *facts, request); });
  std::printf("plan, %6zu rows   %8.1f ms\n", sheet.rows.size(), narrow);
  const double full = medianMs([&] { sheet = planSheet(wide, *facts, request); });
  std::printf("plan, %6zu rows   %8.1f ms\n", sheet.rows.size(), full);
  // The same rows by rules, under names of six fields and four filters.
  Brief& brief = wide.briefs[0];
  Selection byHand = brief.what.tracks;
  brief.what.tracks.picks = {{false, PickBy::Tag, "printed"}, {true, PickBy::Named, "no such*"}};
  for (Track& track : wide.tracks)
    if (Chooser(byHand).takes({track.id, track.name})) track.tags = {"printed"};
  brief.where.regions.picks = {
      {false, PickBy::All}, {true, PickBy::Tag, "draft"}, {true, PickBy::Under, "Nowhere"}};
  brief.names.format =
      "{session|initials}_{region.base|snake}<_{group|short}>_{source|kebab|max 20}_{n.region:2}_{n.name:2}";
  const double named = medianMs([&] { sheet = planSheet(wide, *facts, request); });
  std::printf("by rules, %6zu rows %6.1f ms\n", sheet.rows.size(), named);
  const TrackTree tree(wide);
  const double ahead = medianMs([&] {
    const auto preview = NamesPreview::of(sheet, 0, wide, tree, brief.names);
    for (std::size_t row = 0; row < 40; ++row) (void)preview->fileOf(sheet.rows.size() / 2 + row);
  });
  std::printf("40 names ahead      %8.1f ms\n", ahead);
  Brief::Names plain = brief.names;
  plain.format =
      "{session|initials}_{region.base|snake}<_{group|short}>_{source|kebab|max 20}_{n.region:2}_{n}";
  const double quick = medianMs([&] {
    const auto preview = NamesPreview::of(sheet, 0, wide, tree, plain);
    for (std::size_t row = 0; row < 40; ++row) (void)preview->fileOf(sheet.rows.size() / 2 + row);
  });
  std::printf("the same without n.name %4.1f ms\n", quick);
}
