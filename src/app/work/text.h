// The core's text for Qt.
#pragma once

#include <QStringList>
#include <string>
#include <string_view>
#include <vector>

namespace octaphon::app {

inline QString text(std::string_view value) {
  return QString::fromUtf8(value.data(), static_cast<qsizetype>(value.size()));
}

/// `sound, mix` and the list of what is in it.
inline QString listText(const std::vector<std::string>& words) {
  QStringList list;
  for (const std::string& word : words) list << text(word);
  return list.join(", ");
}
inline std::vector<std::string> listFrom(const QString& typed) {
  std::vector<std::string> words;
  for (const QString& word : typed.split(',', Qt::SkipEmptyParts))
    if (!word.trimmed().isEmpty()) words.push_back(word.trimmed().toStdString());
  return words;
}

}  // namespace octaphon::app
