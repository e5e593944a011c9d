// Listens to the join of the selected region in the background, for those who show it.
#pragma once

#include <atomic>
#include <QObject>
#include <QThreadPool>
#include <QTimer>

#include "app/work/selection.h"
#include "app/work/sheet_keeper.h"
#include "run/region_seam.h"

namespace octaphon::app {

class SeamListener : public QObject {
  Q_OBJECT
 public:
  SeamListener(SheetKeeper& sheets, Selected& selected, MediaCache& cache, PluginPasses& passes,
               QObject* parent = nullptr);
  ~SeamListener() override;

  /// Only while someone shows what is found.
  void setWanted(bool wanted);
  /// Of the first region that is selected, with better places nearby; null while it is not known.
  std::shared_ptr<const RegionSeam> found() const { return found_; }
  /// The place it is of.
  const LoopPlace& place() const { return place_; }
  /// Why there is none; empty where that is not so.
  const QString& problem() const { return problem_; }
  /// To either side, that better places are looked for within.
  double searchMs() const { return searchMs_; }
  void setSearchMs(double searchMs);

 signals:
  void changed();

 private:
  void ask();
  void start();

  SheetKeeper& sheets_;
  Selected& selected_;
  MediaCache& cache_;
  PluginPasses& passes_;
  QThreadPool pool_;
  QTimer delay_;
  std::shared_ptr<std::atomic<bool>> cancel_ =
      std::make_shared<std::atomic<bool>>(false);  // the last question's
  bool isWanted_ = false;
  double searchMs_ = 20;
  LoopPlace place_;
  std::shared_ptr<const RegionSeam> found_;
  QString problem_;
};

}  // namespace octaphon::app
