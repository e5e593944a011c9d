// octaphon-bench-large SESSION: how long a large session takes to open, to plan and to look up, a median of several.
#include <algorithm>
#include <chrono>
#include <cstdio>
#include <functional>

#include "run/delivery.h"
#include "session/session_file.h"

namespace {

double medianMs(const std::function<void()>& work) {
  std::vector<double> times;
  for (int i = 0; i < 5; ++i) {
    const auto begin = std::chrono::steady_clock::now();
    work();
    times.push_back(std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - begin).count());
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
  Session wide = *session;  // every source in every region
  wide.briefs[0].counts = Counts::EverythingHeard;
  for (Track& track : wide.tracks)
    for (Clip& clip : track.clips) {
      clip.start = 0;
      clip.length = 2000 * 48000;
      if (&clip != &track.clips[0]) clip.mute = true;
    }
  std::printf("open                %8.1f ms\n", medianMs([&] { (void)loadSession(argv[1]); }));
  Sheet sheet;
  std::printf("copy                %8.1f ms\n", medianMs([&] { const Session copy = *session; (void)copy; }));
  const double narrow = medianMs([&] { sheet = planSheet(*session, *facts, request); });
  std::printf("plan, %6zu rows   %8.1f ms\n", sheet.rows.size(), narrow);
  const double full = medianMs([&] { sheet = planSheet(wide, *facts, request); });
  std::printf("plan, %6zu rows   %8.1f ms\n", sheet.rows.size(), full);
}
