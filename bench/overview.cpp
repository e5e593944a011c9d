// octaphon-bench-overview FILE: how fast the overview of a long recording is built, without the cache, in one
// thread.
#include <unistd.h>

#include <chrono>
#include <cstdio>

#include "base/pending_file.h"
#include "media/overview.h"
#include "media/sound_file.h"

int main(int argc, char** argv) {
  using namespace octaphon;
  using Clock = std::chrono::steady_clock;
  if (argc != 2) return 2;
  const std::filesystem::path folder = std::filesystem::temp_directory_path() / temporaryName();
  const auto sound = SoundFile::open(argv[1]);
  if (!sound) return 1;
  const double seconds = static_cast<double>(sound->info().frames) / sound->info().rate;
  MediaCache cache(folder);
  const Clock::time_point begin = Clock::now();
  const auto overview = overviewOf(argv[1], Digest{1, 2}, cache);
  const double took = std::chrono::duration<double>(Clock::now() - begin).count();
  std::printf("overview of %.0f s in %.2f s: %.0f times real time\n", seconds, took, seconds / took);
  cache.clear();
  std::filesystem::remove_all(folder);
  return overview ? 0 : 1;
}
