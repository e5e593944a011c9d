// Sessions on disk.
#pragma once

#include <filesystem>

#include "base/job_control.h"
#include "base/result.h"
#include "session/session.h"

namespace octaphon {

inline constexpr std::uint64_t kMaxSessionBytes = 512ull << 20;

/// As readSession().
Result<Session> loadSession(const std::filesystem::path& file, JobControl* job = nullptr);

/// Replaces the file as a whole: after a crash there is the old session or the new one. A
/// part of the job is one of two steps, of which the second cannot be stopped.
Result<> saveSession(const Session& session, const std::filesystem::path& file, JobControl* job = nullptr);

}  // namespace octaphon
