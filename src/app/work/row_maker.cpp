#include "app/work/row_maker.h"

#include <unordered_set>

#include "app/work/settings.h"

namespace octaphon::app {

LastLook lastLookAt(const Sheet& sheet, const std::vector<std::size_t>& rows) {
  LastLook look;
  look.files = rows.size();
  for (const std::size_t index : rows) {
    const Row& row = sheet.rows[index];
    look.seconds += static_cast<double>(row.frames()) / row.rate;
    look.folders.insert(sheet.briefOf(row).base);
    look.remarks += sheet.isRemarkable(row) ? 1 : 0;
    if (row.state == RowState::Renamed) {
      ++look.renamed;
      continue;
    }
    look.bytes += dataBytes(sheet.formOf(row), row.frames());
    look.replaced += row.state == RowState::ToMake ? 0 : 1;
  }
  for (const Row& row : sheet.rows) look.heldBack += row.isHeldBack ? 1 : 0;
  return look;
}

RowMaker::RowMaker(SheetKeeper& sheets, Making& making, PluginPasses& passes, QObject* parent)
    : QObject(parent), sheets_(sheets), making_(making), passes_(passes) {
  connect(&sheets_, &SheetKeeper::sheetChanged, this, [this] {
    pruneFailed();
    refresh();
  });
  connect(&making_, &Making::finished, this, &RowMaker::noteRun);
}

void RowMaker::makeDue() {
  ask({"due", [](const Sheet& sheet) { return rowsToMake(sheet, false); }});
}

void RowMaker::makeAll() { ask({"all", rowsToMakeAgain, true}); }

void RowMaker::noteRun(const MadeReport& report) {
  for (const MadeFile& made : report.made) failed_.erase(made.key);
  for (const MadeFailure& failure : report.failed) failed_.insert(failure.key);
}

void RowMaker::pruneFailed() {
  const Sheet& sheet = *sheets_.sheet();
  const std::size_t gone = std::erase_if(failed_, [&](const std::string& key) {
    const auto row = sheet.find(key);
    return !row || sheet.rows[*row].state == RowState::UpToDate;
  });
  if (gone > 0) emit failedChanged();
}

void RowMaker::makeFailed() {
  sheets_.refresh();  // what kept them may have gone
  makeRows({failed_.begin(), failed_.end()}, false);
}

void RowMaker::makeRows(const std::vector<std::string>& keys, bool replaceAny) {
  const std::unordered_set<std::string> wanted(keys.begin(), keys.end());
  std::string what = replaceAny ? "over" : "rows";
  for (const std::string& key : keys) what += "\n" + key;
  ask({std::move(what),
       [wanted, replaceAny](const Sheet& sheet) {
         std::vector<std::size_t> rows;
         for (std::size_t i = 0; i < sheet.rows.size(); ++i) {
           const Row& row = sheet.rows[i];
           const bool isAny = row.state != RowState::Fault && row.state != RowState::HeldBack;
           if ((replaceAny ? isAny : mayBeMadeAgain(sheet, row)) && wanted.contains(sheet.keyOf(row)))
             rows.push_back(i);
         }
         return rows;
       },
       true});
}

void RowMaker::ask(Asked asked) {
  if (making_.isRunning()) return;
  if (look_ && asked_ && asked_->what == asked.what) return goOn();
  asked_ = std::move(asked);
  look_.reset();
  sheets_.whenPlanned([this] { refresh(); });
}

void RowMaker::refresh() {
  if (!asked_ || sheets_.isPlanning()) return;
  const std::vector<std::size_t> rows = asked_->choose(*sheets_.sheet());
  if (rows.empty()) {
    leave();
    emit nothingToMake();
    return;
  }
  look_ = lastLookAt(*sheets_.sheet(), rows);
  emit lookChanged();
}

void RowMaker::goOn() {
  if (!asked_) return;
  const Asked asked = *asked_;
  leave();
  sheets_.whenPlanned([this, asked] { start(asked.choose(*sheets_.sheet()), asked.again); });
}

void RowMaker::leave() {
  asked_.reset();
  look_.reset();
  emit lookChanged();
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
  request.jobs = settings::workers();
  request.measured = sheets_.measured();
  request.measures = sheets_.shownLevels();
  making_.start(std::move(request));
}

}  // namespace octaphon::app
