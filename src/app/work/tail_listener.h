// Listens to the tail of the selected row in the background, for those who show it.
#pragma once

#include <atomic>
#include <QObject>
#include <QThreadPool>
#include <QTimer>

#include "app/work/row_choice.h"
#include "run/tail_levels.h"

namespace octaphon::app {

class TailListener : public QObject {
  Q_OBJECT
 public:
  TailListener(SheetKeeper& sheets, RowChoice& rows, MediaCache& cache, PluginPasses& passes,
               QObject* parent = nullptr);
  ~TailListener() override;

  /// Only while someone shows what is found.
  void setWanted(bool wanted);
  /// Of the row that is selected; null while it is not known.
  std::shared_ptr<const TailLevels> levels() const { return levels_; }
  /// Why there are none; empty where that is not so.
  const QString& problem() const { return problem_; }

 signals:
  void changed();

 private:
  void ask();
  void start();

  SheetKeeper& sheets_;
  RowChoice& rows_;
  MediaCache& cache_;
  PluginPasses& passes_;
  QThreadPool pool_;
  QTimer delay_;
  std::shared_ptr<std::atomic<bool>> cancel_ =
      std::make_shared<std::atomic<bool>>(false);  // the last question's
  bool isWanted_ = false;
  std::shared_ptr<const TailLevels> levels_;
  QString problem_;
};

}  // namespace octaphon::app
