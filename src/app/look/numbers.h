// Figures as the window writes them.
#pragma once

#include <QString>

namespace octaphon::app {

inline constexpr QChar kMinus(0x2212);

/// With a real minus sign.
inline QString numberText(double value, int decimals) {
  return QString::number(value, 'f', decimals).replace('-', kMinus);
}

}  // namespace octaphon::app
