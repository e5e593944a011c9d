// What the program remembers from one time to the next: recent sessions, the window's looks.
#pragma once

#include <QByteArray>
#include <QStringList>

namespace octaphon::app {

/// How much of what was made is read back.
enum class ReadsBack {
  All,    ///< all of it, decoded
  Bytes,  ///< its bytes are compared with what was written
  None,
};

}  // namespace octaphon::app

namespace octaphon::app::settings {

/// Sessions that are still there, the newest first.
QStringList recent();
void remember(const QString& session);

bool night();
void setNight(bool on);

ReadsBack readsBack();
void setReadsBack(ReadsBack how);

/// A part of the window's looks, by name.
QByteArray layout(const QString& part);
void setLayout(const QString& part, const QByteArray& state);

}  // namespace octaphon::app::settings
