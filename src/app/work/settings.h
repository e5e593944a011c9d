// What the program remembers from one time to the next: recent sessions, the window's looks, unticked briefs.
#pragma once

#include <QByteArray>
#include <QStringList>
#include <set>
#include <string>

namespace octaphon::app::settings {

/// Sessions that are still there, the newest first.
QStringList recent();
void remember(const QString& session);

bool night();
void setNight(bool on);

/// A part of the window's looks, by name.
QByteArray layout(const QString& part);
void setLayout(const QString& part, const QByteArray& state);

/// Ids of the briefs of a session that are not ticked.
std::set<std::string> unticked(const QString& session);
void setUnticked(const QString& session, const std::set<std::string>& briefs);

}  // namespace octaphon::app::settings
