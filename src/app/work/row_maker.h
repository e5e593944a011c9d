// Which rows are made: chosen from the newest sheet. Before, there is a last look at what would be made;
// asked for once more, it is made.
#pragma once

#include <functional>
#include <optional>
#include <QObject>
#include <string>
#include <vector>

#include "app/work/document.h"
#include "app/work/making.h"
#include "app/work/sheet_keeper.h"

namespace octaphon::app {

/// What a run would do.
struct LastLook {
  std::size_t files = 0;     ///< that are written or renamed
  std::size_t replaced = 0;  ///< of them, over a file that is there
  std::size_t renamed = 0;
  double seconds = 0;                 ///< of sound, at most
  std::uint64_t bytes = 0;            ///< of samples, at most
  std::set<FolderPath> folders = {};  ///< where to
  std::size_t heldBack = 0;           ///< rows of the sheet
  std::size_t remarks = 0;            ///< of the files, those with more than notes
};
LastLook lastLookAt(const Sheet& sheet, const std::vector<std::size_t>& rows);

class RowMaker : public QObject {
  Q_OBJECT
 public:
  RowMaker(SheetKeeper& sheets, Making& making, PluginPasses& passes, QObject* parent = nullptr);

  // Each of them: a last look; the same once more, or goOn(), makes it.
  /// What is not up to date.
  void makeDue();
  /// Everything of ours again, but nothing that others put there or altered.
  void makeAll();
  /// Those of these rows that are still there, up to date or not; `replaceAny`: also over what others put
  /// there.
  void makeRows(const std::vector<std::string>& keys, bool replaceAny);

  /// What failed in the runs of this session, was not made since, and is still asked for.
  void makeFailed();
  const std::set<std::string>& failed() const { return failed_; }  ///< keys
  void forgetFailed() { failed_.clear(); }

  /// At what is asked for; it follows the sheet. Null: nothing is.
  const LastLook* look() const { return look_ ? &*look_ : nullptr; }
  void goOn();
  void leave();

 signals:
  void lookChanged();
  void nothingToMake();  ///< of what was asked for
  void failedChanged();  ///< without a run

 private:
  using Choose = std::function<std::vector<std::size_t>(const Sheet& sheet)>;
  struct Asked {
    std::string what;
    Choose choose;
    bool again = false;
  };
  void ask(Asked asked);
  void refresh();
  void noteRun(const MadeReport& report);
  void pruneFailed();
  void start(std::vector<std::size_t> rows, bool again);

  SheetKeeper& sheets_;
  Making& making_;
  PluginPasses& passes_;
  std::optional<Asked> asked_;
  std::optional<LastLook> look_;
  std::set<std::string> failed_;
};

}  // namespace octaphon::app
