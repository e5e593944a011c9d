// The plug-ins that were found, and those that failed when they were tried, with why.
#pragma once

#include <QPushButton>
#include <QTreeWidget>
#include <QWidget>

#include "app/work/work.h"
#include "run/plugin_trials.h"
#include "run/worker_passes.h"

namespace octaphon::app {

class PluginList : public QWidget {
  Q_OBJECT
 public:
  PluginList(Work& work, QWidget* parent);

 private:
  struct Found {
    std::vector<InstalledPlugin> installed;
    std::vector<PluginTrials::Failed> failed;
  };
  void look();
  void show(const Found& found);
  void tryAgain();
  Work& work_;
  QTreeWidget* tree_;
  QPushButton* again_;
};

}  // namespace octaphon::app
