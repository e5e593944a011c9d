#include "run/live_sheet.h"

#include "plan/row_states.h"

namespace octaphon {

Sheet planWithStates(const Session& session, const MediaFacts& facts, const PlanRequest& request,
                     const PluginCatalogue* plugins) {
  const SessionContext context(session, facts, plugins);
  Sheet sheet = planSheet(context, request);
  std::map<FolderPath, FolderFacts> folders;
  for (const auto& [base, files] : plannedFiles(sheet))
    folders[base] = lookAtFolder(base, files, request.thorough);
  setStates(sheet, context.signal, folders);
  return sheet;
}

}  // namespace octaphon
