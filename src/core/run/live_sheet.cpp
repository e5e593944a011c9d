#include "run/live_sheet.h"

#include "plan/row_states.h"

namespace octaphon {
namespace {

/// Editions as the receipts have them, and today's where there is none.
PlanRequest withEditions(const Session& session, PlanRequest request) {
  std::map<FolderPath, std::map<std::string, Edition>> known;
  for (const std::size_t index : request.briefs) {
    const Brief& brief = session.briefs[index];
    const auto base = baseFolderOf(session, brief, request.folder);
    if (!base) continue;
    const auto [there, isNew] = known.try_emplace(*base);
    if (isNew) there->second = editionsIn(*base);
    if (const auto found = there->second.find(brief.id); found != there->second.end())
      request.editions.insert(*found);
  }
  request.newEdition = firstEdition();
  return request;
}

}  // namespace

Sheet planWithStates(const Session& session, const MediaFacts& facts, const PlanRequest& request,
                     const PluginCatalogue* plugins) {
  const SessionContext context(session, facts, plugins);
  Sheet sheet = planSheet(context, withEditions(session, request));
  std::map<FolderPath, FolderFacts> folders;
  for (const auto& [base, files] : plannedFiles(sheet))
    folders[base] = lookAtFolder(base, files, request.thorough);
  setStates(sheet, context.signal, folders);
  return sheet;
}

}  // namespace octaphon
