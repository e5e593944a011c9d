// Sessions on disk.
#pragma once

#include <filesystem>

#include "base/result.h"
#include "session/session.h"

namespace octaphon {

inline constexpr std::uint64_t kMaxSessionBytes = 512ull << 20;

Result<Session> loadSession(const std::filesystem::path& file);

/// Replaces the file as a whole: after a crash there is the old session or the new one.
Result<> saveSession(const Session& session, const std::filesystem::path& file);

}  // namespace octaphon
