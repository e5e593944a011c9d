// Says on the desktop that a long run has ended, where no window of the program is in front: a notification
// of the freedesktop.org Desktop Notifications Specification, version 1.2. Without such a service nothing
// happens.
#pragma once

#include <QObject>

#include "app/work/work.h"

namespace octaphon::app {

class Notifier : public QObject {
  Q_OBJECT
 public:
  /// Of runs that take `longSeconds` or more.
  Notifier(Work& work, QObject* parent, double longSeconds = 10);

 private:
  void tell(const MadeReport& report) const;

  double longSeconds_;
};

}  // namespace octaphon::app
