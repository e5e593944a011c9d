// The core's text for Qt.
#pragma once

#include <map>
#include <QObject>
#include <QStringList>
#include <string>
#include <string_view>
#include <vector>

#include "base/unicode.h"

namespace octaphon::app {

/// Words of the interface, outside of a class that has its own.
inline QString tr(const char* words) { return QObject::tr(words); }

inline QString text(std::string_view value) {
  return QString::fromUtf8(value.data(), static_cast<qsizetype>(value.size()));
}

/// A name on the disk, as far as it can be shown.
inline QString shownName(std::string_view name) { return text(printable(name, 400)); }

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

/// `key = value`, a line each, and the pairs of what is typed so; lines without a key or a sign are passed
/// over.
inline std::string pairsText(const std::map<std::string, std::string>& pairs) {
  std::string lines;
  for (const auto& [key, value] : pairs) lines += key + " = " + value + "\n";
  return lines;
}
inline std::map<std::string, std::string> pairsFrom(const QString& typed) {
  std::map<std::string, std::string> pairs;
  for (const QString& line : typed.split('\n')) {
    const QString key = line.section('=', 0, 0).trimmed();
    if (!key.isEmpty() && line.contains('='))
      pairs[key.toStdString()] = line.section('=', 1).trimmed().toStdString();
  }
  return pairs;
}

}  // namespace octaphon::app
