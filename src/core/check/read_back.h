// A file as it lies on the disk: all of it read, and decoded.
#pragma once

#include <initializer_list>
#include <optional>
#include <string>
#include <vector>

#include "base/hash.h"
#include "base/job_control.h"
#include "base/result.h"
#include "base/safe_folder.h"
#include "check/wave_meter.h"
#include "formats/file_facts.h"
#include "level/levels.h"
#include "level/sound_figures.h"

namespace octaphon {

/// Of a name as FileFacts has it; null where it is none of ours.
const EncodingInfo* encodingNamed(std::string_view name);

struct ReadBackAsked {
  bool decodes = true;        ///< else only its bytes are looked at
  LevelsAsked measures = {};  ///< besides its figures
  bool seam = false;          ///< of its first loop, else of the whole
  std::size_t wave = 0;       ///< columns of a picture
};

/// How loud a file is just before it ends.
inline constexpr double kEndSeconds = 0.01;

struct ReadBack {
  std::uint64_t bytes = 0;
  FileIdentity identity;  ///< when it was read
  Digest content;         ///< as digestOf(fd, place, facts.soundAt) gives it
  FileFacts facts;
  SoundFigures figures;  ///< channels in our order
  Digest samples;        ///< of what was decoded, in the file's rate and width
  Levels levels;
  std::optional<double> seam;  ///< 0 … 100
  double endPeak = 0;          ///< of the last kEndSeconds, full scale 1
  std::vector<WaveColumn> wave;
};

/// What is measured of a file that is to keep under a ceiling, or to have a loudness.
ReadBackAsked readBackAskedOf(std::optional<double> ceilingDb, std::optional<double> lufs);

/// NotFound; or why it cannot be read. Occupied where the file changed meanwhile: it is another one by now.
/// Cancelled where any of the jobs, which may be null, is stopped.
Result<ReadBack> readBack(const SafeFolder& folder, const std::string& file, const ReadBackAsked& asked,
                          std::initializer_list<const JobControl*> jobs = {});

}  // namespace octaphon
