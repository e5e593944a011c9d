// Figures as the window writes them.
#pragma once

#include <cstdlib>
#include <QString>

namespace octaphon::app {

inline constexpr QChar kMinus(0x2212);

/// With a real minus sign, and none of what is rounded to nothing.
inline QString numberText(double value, int decimals) {
  QString text = QString::number(value, 'f', decimals);
  if (text.startsWith('-') && text.toDouble() == 0) text.remove(0, 1);
  return text.replace('-', kMinus);
}

/// In groups of three: `480 000`.
inline QString groupedText(qint64 number) {
  constexpr QChar kNarrowSpace(0x202F);
  QString text = QString::number(std::abs(number));
  for (auto at = text.size() - 3; at > 0; at -= 3) text.insert(at, kNarrowSpace);
  return number < 0 ? kMinus + text : text;
}

}  // namespace octaphon::app
