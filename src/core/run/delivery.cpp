#include "run/delivery.h"

#include "plan/row_states.h"

namespace octaphon {

Sheet planWithStates(const Session& session, const MediaFacts& facts, const PlanRequest& request,
                     const PluginCatalogue* plugins) {
  Sheet sheet = planSheet(session, facts, request, plugins);
  std::map<std::filesystem::path, FolderFacts> folders;
  for (const auto& [base, files] : plannedFiles(sheet)) folders[base] = lookAtFolder(base, files);
  setStates(sheet, folders);
  return sheet;
}

}  // namespace octaphon
