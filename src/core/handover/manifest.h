// What was delivered, for game tools: variations under the name they share, loops with their lengths, so that
// an importer needs no naming rules. docs/handing-over.md describes it.
#pragma once

#include <string>

#include "handover/delivery.h"

namespace octaphon {

/// JSON, docs/schemas/manifest.schema.json; of files that are there. Ends with a line break.
std::string manifestJson(const Delivery& delivery);

}  // namespace octaphon
