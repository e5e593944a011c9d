// A session with everything that planning needs from the disk: the way from a session to a sheet with true
// states.
#pragma once

#include <map>
#include <memory>
#include <string>

#include "media/media_facts.h"
#include "plan/planner.h"
#include "plan/sheet.h"
#include "session/session.h"

namespace octaphon {

/// Plans the briefs and looks into their target folders. Reads folders and, where a file's size or time is
/// not what the receipt says, the file.
Sheet planWithStates(const Session& session, const MediaFacts& facts, const PlanRequest& request,
                     const PluginCatalogue* plugins = nullptr);

/// The editions that are begun of the briefs asked for, by id, as the receipts have them.
std::map<std::string, Edition> editionsOf(const Session& session, const PlanRequest& request);

}  // namespace octaphon
