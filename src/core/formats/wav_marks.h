// What a WAV or RF64 file says of places in it. Layouts: RIFF/WAVE (IBM & Microsoft 1991, 1994) for `cue `,
// `LIST adtl`
// (`labl`, `note`, `ltxt`) and `smpl`; EBU Tech 3285 for `bext`; EBU Tech 3306 for RF64.
#pragma once

#include <cstdint>
#include <filesystem>
#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "base/frames.h"
#include "base/result.h"

namespace octaphon {

/// A cue point, or with a length a stretch. Frames at the file's rate.
struct WavMark {
  Frame at = 0;
  Frame length = 0;
  std::string label;
  std::string note;
};

/// A sampler loop. In the file the end is the last frame played; here it is the one behind.
struct WavLoop {
  Frame start = 0;
  Frame end = 0;
};

struct WavMarks {
  std::vector<WavMark> marks;  ///< by place
  std::vector<WavLoop> loops;
  std::optional<Frame> timeStamp;  ///< `bext` TimeReference: frames since midnight
  std::uint64_t missingBytes = 0;  ///< of sound that the header promises and the file does not have
};

/// Bytes at random access. `read(at, to, size)` gives false where they are not all there.
struct ByteSource {
  std::uint64_t size = 0;
  std::function<bool(std::uint64_t at, void* to, std::size_t size)> read;
};

/// Empty for files that are no WAV at all; Syntax where the chunks of a WAV contradict each other.
Result<WavMarks> readWavMarks(const ByteSource& source, const std::string& place);
Result<WavMarks> readWavMarks(const std::filesystem::path& file);

}  // namespace octaphon
