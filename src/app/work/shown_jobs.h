// Long work that services do of themselves, shown among the long jobs: looking at media, measuring,
// converting what is to be heard.
#pragma once

#include <functional>
#include <QObject>
#include <QTimer>

#include "app/work/level_finder.h"
#include "app/work/listener.h"
#include "app/work/long_jobs.h"
#include "app/work/sheet_keeper.h"
#include "app/work/transport.h"

namespace octaphon::app {

class ShownJobs : public QObject {
  Q_OBJECT
 public:
  ShownJobs(LongJobs& jobs, SheetKeeper& sheets, LevelFinder& levels, Listener& listener,
            Transport& transport, QObject* parent = nullptr);

 private:
  /// One of them at most is shown: the one before ends.
  void show(quint64& id, bool isGoingOn, const std::function<quint64()>& begin);

  LongJobs& jobs_;
  QTimer lookDelay_;
  quint64 look_ = 0, measuring_ = 0, preparing_ = 0;  // 0: not shown
};

}  // namespace octaphon::app
