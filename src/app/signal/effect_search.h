// Built-in effects and plug-ins alike, found while typing.
#pragma once

#include <functional>
#include <QFrame>
#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <vector>

#include "run/worker_passes.h"

namespace octaphon::app {

/// A pop-up that deletes itself; Return takes what is marked, Esc nothing.
class EffectSearch : public QFrame {
 public:
  /// `chosen` gets a built-in effect's name or a plug-in's URI.
  EffectSearch(const std::vector<InstalledPlugin>& plugins, std::function<void(const QString&)> chosen,
               QWidget* parent);

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  void fill();
  void take();

  std::function<void(const QString&)> chosen_;
  std::vector<std::pair<QString, QString>> all_;  // what is chosen, and its words
  QLineEdit* field_;
  QListWidget* list_;
};

}  // namespace octaphon::app
