// The picture of a first start.
#pragma once

#include <QString>

namespace octaphon::app {

/// A window that has the colours of a dark desktop, and asks for a session. False where it did not come to
/// that.
bool takeFirstStart(const QString& file);

}  // namespace octaphon::app
