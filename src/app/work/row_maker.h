// Which rows are made: chosen from the newest sheet, at once or as soon as it is there.
#pragma once

#include <functional>
#include <QObject>
#include <string>
#include <vector>

#include "app/work/document.h"
#include "app/work/making.h"
#include "app/work/sheet_keeper.h"

namespace octaphon::app {

class RowMaker : public QObject {
  Q_OBJECT
 public:
  RowMaker(SheetKeeper& sheets, Making& making, PluginPasses& passes, QObject* parent = nullptr)
      : QObject(parent), sheets_(sheets), making_(making), passes_(passes) {}

  /// What is not up to date.
  void makeDue();
  /// Everything of ours again, but nothing that others put there or altered.
  void makeAll();
  /// Those of these rows that are still there, up to date or not; `replaceAny`: also over what others put
  /// there.
  void makeRows(const std::vector<std::string>& keys, bool replaceAny);

 private:
  using Choose = std::function<std::vector<std::size_t>(const Sheet& sheet)>;
  void make(const Choose& choose, bool again);
  void start(std::vector<std::size_t> rows, bool again);

  SheetKeeper& sheets_;
  Making& making_;
  PluginPasses& passes_;
};

}  // namespace octaphon::app
