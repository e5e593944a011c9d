// Left-over files to the trash, in the background.
#pragma once

#include <QObject>
#include <QStringList>
#include <thread>
#include <vector>

#include "plan/sheet.h"

namespace octaphon::app {

class Cleaning : public QObject {
  Q_OBJECT
 public:
  using QObject::QObject;
  ~Cleaning() override;

  bool isRunning() const { return thread_.joinable(); }
  /// Nothing happens while another one is going on.
  void toTrash(std::vector<SheetFolder> folders);

 signals:
  void started();
  /// How many files are in the trash, and why others are not.
  void finished(std::size_t moved, const QStringList& problems);

 private:
  std::thread thread_;
};

}  // namespace octaphon::app
