// Tables of text (RFC 4180), as spreadsheets write them.
#pragma once

#include <string>
#include <string_view>
#include <vector>

namespace octaphon {

struct TableRow {
  std::size_t line = 1;  ///< of the text where it begins
  std::vector<std::string> cells;
};

/// Rows that are not empty. Commas, semicolons or tabs part the cells, whatever stands in the first line;
/// cells in quotes may hold them, and line ends.
std::vector<TableRow> tableRows(std::string_view text);

/// A cell as it is written between commas: in quotes where it has to be.
std::string tableCell(const std::string& text);

/// Without spaces around it.
std::string_view strippedCell(std::string_view text);

}  // namespace octaphon
