// Small things that all parts of the timeline draw with.
#pragma once

#include <QColor>

namespace octaphon::app {

inline QColor faded(QColor base, int alpha) {
  base.setAlpha(alpha);
  return base;
}

}  // namespace octaphon::app
