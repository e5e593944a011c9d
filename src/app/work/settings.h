// What the program remembers from one time to the next: recent sessions, the window's looks.
#pragma once

#include <QByteArray>
#include <QStringList>

namespace octaphon::app::settings {

/// Sessions that are still there, the newest first.
QStringList recent();
void remember(const QString& session);

bool night();
void setNight(bool on);

/// A part of the window's looks, by name.
QByteArray layout(const QString& part);
void setLayout(const QString& part, const QByteArray& state);

}  // namespace octaphon::app::settings
