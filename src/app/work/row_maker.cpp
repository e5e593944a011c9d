#include "app/work/row_maker.h"

#include <unordered_set>

namespace octaphon::app {

void RowMaker::make(const Choose& choose, bool again) {
  if (making_.isRunning()) return;
  sheets_.whenPlanned([this, choose, again] { start(choose(*sheets_.sheet()), again); });
}

void RowMaker::makeDue() {
  make([](const Sheet& sheet) { return rowsToMake(sheet, false); }, false);
}

void RowMaker::makeAll() { make(rowsToMakeAgain, true); }

void RowMaker::makeRows(const std::vector<std::string>& keys, bool replaceAny) {
  const std::unordered_set<std::string> wanted(keys.begin(), keys.end());
  const auto choose = [wanted, replaceAny](const Sheet& sheet) {
    std::vector<std::size_t> rows;
    for (std::size_t i = 0; i < sheet.rows.size(); ++i) {
      const Row& row = sheet.rows[i];
      const bool isAny = row.state != RowState::Fault && row.state != RowState::HeldBack;
      if ((replaceAny ? isAny : mayBeMadeAgain(sheet, row)) && wanted.contains(sheet.keyOf(row)))
        rows.push_back(i);
    }
    return rows;
  };
  make(choose, true);
}

void RowMaker::start(std::vector<std::size_t> rows, bool again) {
  if (rows.empty() || making_.isRunning() || !sheets_.facts()) return;
  RunRequest request;
  request.session = sheets_.session();
  request.facts = sheets_.facts();
  request.sheet = sheets_.sheet();
  request.plugins = sheets_.plugins();
  request.pluginPasses = &passes_;
  request.rows = std::move(rows);
  request.again = again;
  making_.start(std::move(request));
}

}  // namespace octaphon::app
