// The session that a delivery came from, as far as its receipt keeps it.
#pragma once

#include "ledger/receipt.h"
#include "session/session.h"

namespace octaphon {

/// By the name of the session's file. NotFound where the receipt is of an earlier version; else as
/// readSession().
Result<Session> outlineIn(const Receipt& receipt, const std::string& session);

}  // namespace octaphon
