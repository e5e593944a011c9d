// What stands in the window before a session is open: the ways in.
#pragma once

#include <QVBoxLayout>
#include <QWidget>

namespace octaphon::app {

class FirstPage : public QWidget {
  Q_OBJECT
 public:
  explicit FirstPage(QWidget* parent = nullptr);
  void setRecent(const QStringList& files);

 signals:
  void openDemo();
  void openOther();
  void fromFiles();
  void fromFolder();
  void openRecent(const QString& file);

 private:
  QVBoxLayout* recent_;
};

}  // namespace octaphon::app
