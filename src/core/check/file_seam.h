// The seam of a loop in an audio file, as it lies on the disk.
#pragma once

#include <filesystem>
#include <optional>

#include "base/result.h"
#include "loop/heard_loop.h"

namespace octaphon {

/// What may be searched, in seconds to either side.
inline constexpr double kMaxSearchSeconds = 5;

/// Of the loop that is given; else of the first one that a WAV names in its `smpl`; else of the whole file.
/// `searchMs`: to either side, within which better places are looked for, 0 … kMaxSearchSeconds; 0: none are.
/// Errors as when media are read; BadValue where the loop does not lie in the file, NothingLeft where the
/// file is empty.
Result<FoundSeam> seamOf(const std::filesystem::path& file, std::optional<LoopPlace> place, double searchMs);

/// Of a file with lead-in, body and tail, which a player begins anew after the length of the body: the first
/// loop that its `smpl` names, else the whole. What is heard is one lap, all of it, by its own frames. Errors
/// as above.
Result<FoundSeam> overlapSeamOf(const std::filesystem::path& file);

}  // namespace octaphon
