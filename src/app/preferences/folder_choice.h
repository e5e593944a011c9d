// A folder, typed or chosen; empty where it is as usual.
#pragma once

#include <functional>
#include <QLineEdit>
#include <QWidget>

namespace octaphon::app {

class FolderChoice : public QWidget {
  Q_OBJECT
 public:
  /// `usual` is shown where nothing is chosen. `take` gets a folder that is there, or nothing.
  FolderChoice(const QString& name, const QString& now, const QString& usual,
               std::function<void(const QString&)> take, QWidget* parent);

 private:
  void choose();
  void takeTyped();
  QLineEdit* line_;
  QString title_, taken_;
  std::function<void(const QString&)> take_;
};

}  // namespace octaphon::app
