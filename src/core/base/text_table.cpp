#include "base/text_table.h"

#include <algorithm>

namespace octaphon {

std::string_view strippedCell(std::string_view text) {
  const auto isSpace = [](char c) { return c == ' ' || c == '\t' || c == '\r'; };
  while (!text.empty() && isSpace(text.front())) text.remove_prefix(1);
  while (!text.empty() && isSpace(text.back())) text.remove_suffix(1);
  return text;
}

/// The sign that parts the cells of the first line: a tab, else a semicolon, else a comma.
static char separatorOf(std::string_view text) {
  bool quoted = false;
  bool semicolon = false;
  for (const char c : text) {
    if (c == '"') quoted = !quoted;
    if (quoted) continue;
    if (c == '\n') break;
    if (c == '\t') return '\t';
    semicolon |= c == ';';
  }
  return semicolon ? ';' : ',';
}

std::vector<TableRow> tableRows(std::string_view text) {
  const char separator = separatorOf(text);
  std::vector<TableRow> rows;
  TableRow row;
  std::string cell;
  bool quoted = false;
  bool wasQuoted = false;
  std::size_t line = 1;
  const auto endCell = [&] {
    row.cells.push_back(wasQuoted ? cell : std::string(strippedCell(cell)));
    cell.clear();
    wasQuoted = false;
  };
  const auto endRow = [&] {
    endCell();
    if (std::any_of(row.cells.begin(), row.cells.end(), [](const std::string& c) { return !c.empty(); }))
      rows.push_back(std::move(row));
    row = {line, {}};
  };
  for (std::size_t i = 0; i < text.size(); ++i) {
    const char c = text[i];
    const bool next = i + 1 < text.size();
    if (quoted) {
      if (c == '\n') ++line;
      if (c != '"')
        cell += c;
      else if (next && text[i + 1] == '"')
        cell += text[++i];
      else
        quoted = false;
    } else if (c == '"' && strippedCell(cell).empty()) {
      quoted = wasQuoted = true;
      cell.clear();
    } else if (c == separator) {
      endCell();
    } else if (c == '\n' || (c == '\r' && !(next && text[i + 1] == '\n'))) {
      ++line;
      endRow();
    } else if (!(c == '\r' || (wasQuoted && (c == ' ' || c == '\t')))) {
      cell += c;
    }
  }
  if (!cell.empty() || wasQuoted || !row.cells.empty()) endRow();
  return rows;
}

std::string tableCell(const std::string& text) {
  if (text.find_first_of(",;\t\"\r\n") == std::string::npos && strippedCell(text) == text) return text;
  std::string result = "\"";
  for (const char c : text) result += c == '"' ? "\"\"" : std::string(1, c);
  return result + '"';
}

}  // namespace octaphon
