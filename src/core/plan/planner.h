// From session and briefs to the sheet. Pure: everything it needs comes in as values.
#pragma once

#include <optional>

#include "media/media_facts.h"
#include "plan/sheet.h"
#include "recipe/recipe.h"
#include "session/session.h"

namespace octaphon {

struct PlanRequest {
  std::vector<std::size_t> briefs;              ///< indices in Session::briefs, in the order wanted
  std::optional<std::filesystem::path> folder;  ///< replaces the base folder of every brief
  bool thorough =
      false;  ///< files of ours are read, not only looked at: bits may change while size and time stay
};

/// All briefs of a session, or those with these names (a brief of each name at least, else UnknownName).
Result<PlanRequest> requestFor(const Session& session, const std::vector<std::string>& briefNames);

/// Sounds and rows with names, frames and remarks; states are all ToMake or Fault until setStates().
Sheet planSheet(const SessionContext& context, const PlanRequest& request);
/// The same. `plugins` is what is known of plug-ins; null: of none.
Sheet planSheet(const Session& session, const MediaFacts& facts, const PlanRequest& request,
                const PluginCatalogue* plugins = nullptr);

}  // namespace octaphon
