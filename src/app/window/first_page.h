// What stands in the window before a session is open: the ways in.
#pragma once

#include <functional>
#include <QVBoxLayout>
#include <QWidget>

#include "app/commands/commands.h"

namespace octaphon::app {

class FirstPage : public QWidget {
  Q_OBJECT
 public:
  /// Buttons are commands; recent sessions are opened through `open`.
  FirstPage(Commands& commands, std::function<void(const QString&)> open, QWidget* parent = nullptr);
  void setRecent(const QStringList& files);

 private:
  std::function<void(const QString&)> open_;
  QVBoxLayout* recent_;
};

}  // namespace octaphon::app
