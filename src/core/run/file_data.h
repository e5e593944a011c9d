// What a row's file says of itself, besides its samples.
#pragma once

#include "ledger/receipt.h"
#include "plan/sheet.h"
#include "write/encoder.h"

namespace octaphon {

/// `extent`: of the file.
FileData fileDataOf(const Sheet& sheet, const Row& row, const Extent& extent);

/// The receipt's line of a row but for what only its file says: content, head and stamp.
ReceiptLine lineOf(const Sheet& sheet, const Row& row, const Fingerprint& fingerprint);

}  // namespace octaphon
