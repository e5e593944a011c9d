// From session and briefs to the sheet. Pure: everything it needs comes in as values.
#pragma once

#include <map>
#include <memory>
#include <optional>
#include <set>

#include "ledger/edition.h"
#include "ledger/receipt.h"
#include "media/media_facts.h"
#include "plan/sheet.h"
#include "recipe/recipe.h"
#include "session/session.h"

namespace octaphon {

struct PlanRequest {
  std::vector<std::size_t> briefs;               ///< indices in Session::briefs, in the order wanted
  std::optional<std::filesystem::path> folder;   ///< replaces the base folder of every brief
  std::map<std::string, Edition> editions = {};  ///< by id of the brief: those that are begun
  Edition newEdition = {};                       ///< of briefs that have none
  /// By id of the brief: those that are fixed.
  std::map<std::string, std::shared_ptr<const StickyNumbers>> numbers = {};
  /// By id of the brief: versions of editions of today that are begun; 0: the next.
  std::map<std::string, int> newEditions = {};
  std::set<std::string> numberedAgain = {};  ///< ids of briefs whose fixed numbers are given anew
  std::vector<Measured> measured = {};  ///< of sounds that were heard elsewhere; count before the receipt's
  bool thorough =
      false;  ///< files of ours are read, not only looked at: bits may change while size and time stay
};

/// All briefs of a session that are on, or those with these names (a brief of each name at least, else
/// UnknownName).
Result<PlanRequest> requestFor(const Session& session, const std::vector<std::string>& briefNames);

/// Where a brief's files go: the folder it names, below the session's, or `instead`. BadValue where it names
/// another; its files have the session's folder then, and are not made.
Result<FolderPath> baseFolderOf(const Session& session, const Brief& brief,
                                const std::optional<std::filesystem::path>& instead);

/// Sounds and rows with names, frames and remarks; states are all ToMake or Fault until setStates().
Sheet planSheet(const SessionContext& context, const PlanRequest& request);
/// The same. `plugins` is what is known of plug-ins; null: of none.
Sheet planSheet(const Session& session, const MediaFacts& facts, const PlanRequest& request,
                const PluginCatalogue* plugins = nullptr);

}  // namespace octaphon
