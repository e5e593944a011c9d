// The bus that programs of a desktop talk over.
#pragma once

#include <QFileInfo>

namespace octaphon::app {

/// Where none is named, asking for one would start one.
inline bool hasDesktopBus() {
  return qEnvironmentVariableIsSet("DBUS_SESSION_BUS_ADDRESS") ||
         QFileInfo::exists(qEnvironmentVariable("XDG_RUNTIME_DIR") + "/bus");
}

}  // namespace octaphon::app
