// A medium decoded from its start to its end into a file of float samples, at another rate where it is asked
// for.
#pragma once

#include <atomic>
#include <filesystem>

#include "media/sound_file.h"

namespace octaphon {

/// Writes `target` (W64, float, `rate` Hz) through a temporary file beside it; its length is atRate(frames,
/// the medium's rate, rate), rates are converted with SOXR_VHQ. MediumUnreadable where not all of the input
/// can be decoded, at whatever place; nothing is left then.
Result<> convertMedium(SoundFile& input, const std::filesystem::path& target, int rate,
                       const std::atomic<bool>* cancel);

}  // namespace octaphon
