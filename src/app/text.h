// The core's text for Qt.
#pragma once

#include <QString>
#include <string_view>

namespace octaphon::app {

inline QString text(std::string_view value) {
  return QString::fromUtf8(value.data(), static_cast<qsizetype>(value.size()));
}

}  // namespace octaphon::app
