// A session bus of a test program alone. It has to be there before anyone asks for one.
#pragma once

#include <QProcess>

namespace octaphon::test {

class Bus {
 public:
  Bus() {
    bus_.start("dbus-daemon", {"--session", "--print-address", "--nofork"});
    if (bus_.waitForReadyRead(10000)) qputenv("DBUS_SESSION_BUS_ADDRESS", bus_.readLine().trimmed());
  }
  ~Bus() {
    bus_.kill();
    bus_.waitForFinished();
  }

 private:
  QProcess bus_;
};

}  // namespace octaphon::test
