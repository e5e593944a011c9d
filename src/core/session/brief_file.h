// Briefs in a file of their own (`*.octaphon-brief`), for other sessions.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "base/result.h"
#include "session/thing_names.h"

namespace octaphon {

inline constexpr std::string_view kBriefFormatName = "octaphon-brief";
inline constexpr std::uint64_t kMaxBriefBytes = 64ull << 20;

struct BriefFile {
  std::vector<Brief> briefs;
  ThingNames names;  ///< of what they name by id, where they come from; empty in files of first versions
};

/// As they stand in their session, but for what belongs to its rows: held back, exceptions, accepted.
BriefFile briefFileOf(const Session& session, std::vector<Brief> briefs);
std::string writeBriefs(const BriefFile& file);
/// Errors name the place (`briefs[0].tail`) behind `file`. Keys it does not know are kept.
Result<BriefFile> readBriefs(std::string_view text, const std::string& file);

struct AppliedBrief {
  bool isReplaced = false;            ///< one of its name was there
  std::vector<MissingThing> missing;  ///< what it names and the session does not have
};

/// Puts a brief into a session: in the place of the one of its name, whose id and rows stay, or behind the
/// others, with an id that is free. Ids go by `names`, as aimAnew().
AppliedBrief applyBrief(Session& session, Brief brief, const ThingNames& names);

}  // namespace octaphon
