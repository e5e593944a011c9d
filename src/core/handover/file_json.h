// What lists and manifests say of a file, in the same keys.
#pragma once

#include <nlohmann/json_fwd.hpp>

#include "handover/delivery.h"

namespace octaphon::handover {

/// `start`, `session_rate` (null where the receipt does not say), `frames`, `lead_in`, `body`, `tail`.
nlohmann::ordered_json placeJson(const DeliveredFile& file);
/// `rate`, `channels`, `layout`, `encoding`; null where nobody knows.
nlohmann::ordered_json formJson(const DeliveredFile& file);
/// `peak_db`, `true_peak_db`, `lufs`, `range_lu`; null where they cannot be judged.
nlohmann::ordered_json levelsJson(const DeliveredFile& file);
/// `way`, `start`, `length`, `beats`, `laps`, `seam`; null where it is no loop.
nlohmann::ordered_json loopJson(const DeliveredFile& file);

}  // namespace octaphon::handover
