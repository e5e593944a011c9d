// What was delivered, for programs: docs/handing-over.md describes both forms.
#pragma once

#include <string>

#include "handover/delivery.h"

namespace octaphon {

/// JSON, docs/schemas/delivery.schema.json. Ends with a line break.
std::string deliveryJson(const Delivery& delivery);
/// The same as a table (RFC 4180), a row a file, behind a head.
std::string deliveryCsv(const Delivery& delivery);

}  // namespace octaphon
