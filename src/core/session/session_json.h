// A session as JSON text. docs/session-format.md describes it, docs/session.schema.json is its schema.
#pragma once

#include <string>
#include <string_view>

#include "base/job_control.h"
#include "base/result.h"
#include "session/session.h"

namespace octaphon {

inline constexpr int kFormatMajor = 1;
inline constexpr int kFormatMinor = 0;
inline constexpr std::string_view kFormatName = "octaphon-session";

/// Checks everything a session promises: types, ranges, ids that are there once, references, the track tree
/// without circles. Errors name the place (`tracks[3].clips[2].start`) behind `file`. Keys it does not know
/// are kept. A part of the job is an object; Cancelled where it was stopped.
Result<Session> readSession(std::string_view text, const std::string& file, JobControl* job = nullptr);

/// Ends with a line break. Keys at their default are left out where that reads better.
std::string writeSession(const Session& session);
/// A brief as it stands in its session.
std::string writeBrief(const Brief& brief);

}  // namespace octaphon
