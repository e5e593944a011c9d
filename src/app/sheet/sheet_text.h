// Lines of the sheet as text: for the clipboard and for files.
#pragma once

#include <QString>
#include <vector>

#include "app/sheet/sheet_model.h"

namespace octaphon::app {

/// With a heading; columns in their order, apart by tabs.
QString asTabs(const Sheet& sheet, const std::vector<std::size_t>& rows, const std::vector<int>& columns);
/// RFC 4180, in UTF-8: CRLF after each line, quotes where they are needed. A text that a table program would
/// take for a formula gets an apostrophe before it.
QByteArray asCsv(const Sheet& sheet, const std::vector<std::size_t>& rows, const std::vector<int>& columns);

}  // namespace octaphon::app
