// What a file says of its row and its making, so that it is found again without a receipt.
#pragma once

#include <string>

#include "ledger/fingerprint.h"

namespace octaphon {

/// Which row a file is of: 16 hexadecimal digits, out of its key. Rows of other sessions may have the same.
std::string rowMarkOf(const std::string& key);
/// As what it was made: the same out of sound, form and engine.
std::string madeMarkOf(const Fingerprint& made);

}  // namespace octaphon
