// octaphon-bench-costs: what each kind of node costs, in nanoseconds a frame and channel, one core. The model
// of costs (run/node_cost) holds such figures.
#include <chrono>
#include <cmath>
#include <cstdio>
#include <filesystem>
#include <random>

#include <tbb/task_arena.h>

#include "media/media_cache.h"
#include "signal/graph.h"
#include "write/encoder.h"

using namespace octaphon;

namespace {

constexpr Frame kFrames = 48000 * 60;
namespace fs = std::filesystem;

void writeNoise(const fs::path& path) {
  auto file = PendingFile::beside(path);
  auto encoder = openEncoder(*file, {Encoding::Float32, 2, 48000}, {}, {});
  std::minstd_rand random(1);
  std::vector<float> samples(4096);
  const float* channels[]{samples.data(), samples.data()};
  for (Frame done = 0; done < kFrames + 48000; done += 4096) {
    for (float& sample : samples) sample = static_cast<float>(random() % 20001) / 40000.0f - 0.25f;
    (void)(*encoder)->write(channels, 4096);
  }
  (void)(*encoder)->finish({});
  (void)file->publish(true);
}

Insert insertOf(const std::string& effect) {
  Insert insert;
  insert.id = "i";
  insert.effect = effect;
  if (effect == "equaliser") insert.values = {{"bell1_gain", 6}, {"bell2_gain", -3}, {"low_gain", 2}};
  if (effect == "compressor") insert.values = {{"threshold", -30}};
  return insert;
}

/// Seconds that one core plays a minute of a track in.
double secondsOf(Session session, MediaCache& cache) {
  const auto facts = gatherFacts(session, cache);
  const auto media = ReadableMedia::prepare(session, *facts, cache, {"m"});
  const SessionContext context(session, *facts, nullptr);
  const PlannedSpan span = PlannedSpan::stretch(0, kFrames);
  Counting counting;
  double best = 1e9;
  tbb::task_arena arena(1);
  for (int turn = 0; turn < 3; ++turn) {
    SpanRecipe recipe(context.signal, span, counting, context.finder.heardIn(span, counting));
    const Brief brief;
    const Tap tap = recipe.tap(brief, PlannedSource::mix());
    arena.execute([&] {
      Graph graph(recipe, media, {tap.node});
      const auto begin = std::chrono::steady_clock::now();
      for (Frame at = 0; at < kFrames; at += graph.blockFrames()) graph.process(at, graph.blockFrames());
      best = std::min(best, std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count());
    });
  }
  return best;
}

Session sessionWith(const fs::path& folder, int tracks) {
  Session session;
  session.file = folder / "costs.octaphon";
  session.media.push_back({"m", "noise.wav"});
  for (int i = 0; i < tracks; ++i) {
    Track track;
    track.id = "t" + std::to_string(i);
    Clip clip;
    clip.id = "c" + std::to_string(i);
    clip.medium = "m";
    clip.length = kFrames;
    track.clips.push_back(clip);
    session.tracks.push_back(track);
  }
  return session;
}

}  // namespace

int main() {
  const fs::path folder = fs::temp_directory_path() / "octaphon-costs";
  fs::create_directories(folder);
  writeNoise(folder / "noise.wav");
  MediaCache cache(folder / "cache");
  const double perFrame = 1e9 / static_cast<double>(kFrames) / 2;
  const double one = secondsOf(sessionWith(folder, 1), cache);
  const double nine = secondsOf(sessionWith(folder, 9), cache);
  std::printf("a track (player, fader, sum)  %6.2f\n", (nine - one) / 8 * perFrame);
  Session moved = sessionWith(folder, 1);
  moved.tracks[0].automation.resize(1);
  moved.tracks[0].automation[0].target = "gain";
  moved.tracks[0].automation[0].points.resize(2);
  moved.tracks[0].automation[0].points[1].at = kFrames;
  moved.tracks[0].automation[0].points[1].value = -6;
  std::printf("a fader that moves            %6.2f\n", (secondsOf(moved, cache) - one) * perFrame);
  for (const char* effect : {"trim", "equaliser", "compressor", "limiter", "saturation", "echo", "reverb"}) {
    Session with = sessionWith(folder, 1);
    with.tracks[0].inserts = {insertOf(effect)};
    std::printf("%-29s %6.2f\n", effect, (secondsOf(with, cache) - one) * perFrame);
  }
  fs::remove_all(folder);
}
