// What a receipt says of a file that is known before its sound is.
#pragma once

#include "formats/file_data.h"
#include "ledger/made_file.h"
#include "plan/sheet.h"

namespace octaphon {

/// Its form, names, place, loop, what it says of itself and what levels were asked for. `extent`: of the
/// file; `data`: in it.
MadeFile plannedAsMade(const Sheet& sheet, const Row& row, const Extent& extent, const FileData& data);

/// The same put into what is known of a file whose sound stays as it is: it was renamed, or says something
/// else of itself.
MadeFile withWhatIsPlanned(MadeFile made, const Sheet& sheet, const Row& row, const FileData& data);

}  // namespace octaphon
