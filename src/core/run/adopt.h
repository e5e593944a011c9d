// A lost receipt built again, out of the marks in the files.
#pragma once

#include <string>
#include <vector>

#include "plan/planner.h"

namespace octaphon {

struct Adopted {
  std::string file, key;     ///< relative to its brief's base folder; of its row
  bool isAsPlanned = false;  ///< it was made just as its row would be made now
};

/// Files in the folders of the briefs asked for that no receipt knows, and that say which row they are of,
/// are entered into the receipts. Where several say the same, the one that has the row's name counts, else
/// the first. What is not as planned is stale then. NotWritable where a receipt cannot be written.
Result<std::vector<Adopted>> adoptFiles(const Session& session, const MediaFacts& facts,
                                        const PlanRequest& request, const PluginCatalogue* plugins);

}  // namespace octaphon
