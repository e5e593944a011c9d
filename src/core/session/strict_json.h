// JSON as Octaphon reads it: UTF-8, no key twice, at most 64 levels deep, no number beyond a double, and a
// limit of what its values take in memory, all checked while parsing, so that a hostile file costs little.
#pragma once

#include <string_view>

#include <nlohmann/json.hpp>

#include "base/job_control.h"
#include "base/result.h"

namespace octaphon {

inline constexpr int kJsonDepth = 64;
/// Bytes of memory, roughly: a session of some 40 MB, which is several hundred thousand clips.
inline constexpr std::size_t kJsonMemory = 512ull << 20;

/// `place` is the file's name, for messages; they go on with line and column. A part of the job is
/// an object; Cancelled where it was stopped.
Result<nlohmann::json> parseStrictJson(std::string_view text, const std::string& place,
                                       JobControl* job = nullptr);

}  // namespace octaphon
