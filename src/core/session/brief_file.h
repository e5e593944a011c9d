// Briefs in a file of their own (`*.octaphon-brief`), for other sessions.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "base/result.h"
#include "session/session.h"

namespace octaphon {

inline constexpr std::string_view kBriefFormatName = "octaphon-brief";
inline constexpr std::uint64_t kMaxBriefBytes = 64ull << 20;

/// As they stand in their session, but for rows that are held back, which are the session's.
std::string writeBriefs(const std::vector<Brief>& briefs);
/// Errors name the place (`briefs[0].tail`) behind `file`. Keys it does not know are kept.
Result<std::vector<Brief>> readBriefs(std::string_view text, const std::string& file);

/// Puts a brief into a session: in the place of the one of its name, whose id and held-back rows stay, or
/// behind the others, with an id that is free. True where it replaced one.
bool applyBrief(Session& session, Brief brief);

}  // namespace octaphon
