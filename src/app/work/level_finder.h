// Hears how loud sounds are, in the background, so that the sheet knows their levels without files being
// made.
#pragma once

#include <functional>
#include <memory>
#include <QObject>
#include <QThreadPool>
#include <vector>

#include "app/work/sheet_keeper.h"
#include "run/plugin_passes.h"
#include "run/progress.h"

namespace octaphon::app {

class LevelFinder : public QObject {
  Q_OBJECT
 public:
  LevelFinder(SheetKeeper& sheets, MediaCache& cache, PluginPasses& passes, QObject* parent = nullptr);
  ~LevelFinder() override;

  /// Of rows of the newest sheet: what their gains go by, and `measures`. `then` is done once the sheet knows
  /// it, or cannot. Another question stops this one.
  void find(std::vector<std::size_t> rows, LevelsAsked measures, std::function<void()> then);
  /// What was heard by then counts.
  void stop();
  /// Nothing does: it was of a session that has gone.
  void forget();
  bool isBusy() const { return control_ != nullptr; }
  /// 0 … 1, of the newest question.
  double portion() const { return control_ ? control_->fraction() : 1; }

 signals:
  void busyChanged();

 private:
  void setControl(std::shared_ptr<RunControl> control);

  SheetKeeper& sheets_;
  MediaCache& cache_;
  PluginPasses& passes_;
  QThreadPool pool_;
  std::shared_ptr<RunControl> control_;  // of the newest question, until it is answered
  unsigned session_ = 0;                 // counts those that were forgotten
};

}  // namespace octaphon::app
