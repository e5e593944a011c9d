#include "check/file_levels.h"

#include <cmath>

#include "base/denormals.h"
#include "level/level_meter.h"
#include "media/planar_file.h"

namespace octaphon {

Result<Levels> levelsOf(const std::filesystem::path& path, LevelsAsked asked) {
  OCTAPHON_ASSIGN(SoundFile file, SoundFile::open(path));
  const DenormalGuard guard;
  PlanarFile turns(file);
  LevelMeter meter(file.info().channels, file.info().rate, asked);
  while (const Frame frames = turns.read()) meter.take(turns.channels(), frames);
  meter.end();
  const Levels levels = meter.levels();
  if (!std::isfinite(*levels.peakDb)) return fail(ErrorCode::NotFinite, path.string());
  return levels;
}

}  // namespace octaphon
