#include "app/work/row_maker.h"

#include <unordered_set>

namespace octaphon::app {

void RowMaker::make(const Choose& choose) {
  if (making_.isRunning()) return;
  sheets_.whenPlanned([this, choose] { start(choose(*sheets_.sheet())); });
}

void RowMaker::makeDue() {
  make([](const Sheet& sheet) { return rowsToMake(sheet, false); });
}

void RowMaker::makeAll() { make(rowsToMakeAgain); }

void RowMaker::makeRows(const std::vector<std::string>& keys, bool replaceAny) {
  make([wanted = std::unordered_set<std::string>(keys.begin(), keys.end()), replaceAny](const Sheet& sheet) {
    std::vector<std::size_t> rows;
    for (std::size_t i = 0; i < sheet.rows.size(); ++i) {
      const Row& row = sheet.rows[i];
      const bool may = replaceAny ? row.state != RowState::Fault : mayBeMadeAgain(sheet, row);
      if (may && wanted.contains(sheet.keyOf(row))) rows.push_back(i);
    }
    return rows;
  });
}

void RowMaker::start(std::vector<std::size_t> rows) {
  if (rows.empty() || making_.isRunning() || !sheets_.facts()) return;
  RunRequest request;
  request.session = sheets_.session();
  request.facts = sheets_.facts();
  request.sheet = sheets_.sheet();
  request.plugins = sheets_.plugins();
  request.pluginPasses = &passes_;
  request.rows = std::move(rows);
  making_.start(std::move(request));
}

}  // namespace octaphon::app
