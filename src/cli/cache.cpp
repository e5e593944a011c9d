#include "cache.h"

#include <cstdio>

#include <CLI/CLI.hpp>

#include "common.h"

namespace octaphon::cli {
namespace {

double megabytes(std::uint64_t bytes) { return static_cast<double>(bytes) / 1e6; }

int runCache(bool clear) {
  MediaCache cache(MediaCache::defaultFolder());
  if (clear) {
    std::printf("%.1f MB freed\n", megabytes(cache.clear()));
    return kWell;
  }
  const KeptInCache kept = cache.kept();
  std::printf("%s\n%.1f MB of at most %.1f MB: %s\n", cache.folder().c_str(), megabytes(kept.bytes),
              megabytes(cache.limit()), kept.words().c_str());
  return kWell;
}

}  // namespace

void addCache(CLI::App& app, int& exit) {
  auto clear = std::make_shared<bool>(false);
  CLI::App* command =
      app.add_subcommand("cache", "Says where converted media are kept, and how much there is");
  command->add_flag("--clear", *clear, "Delete all of it; it is made again when needed");
  command->callback([clear, &exit] { exit = runCache(*clear); });
}

}  // namespace octaphon::cli
