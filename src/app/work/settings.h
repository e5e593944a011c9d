// What the program remembers from one time to the next: recent sessions, the window's looks, and what was
// chosen under Preferences. Nothing here changes what is in files that are made.
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

enum class Colours { Desktop, Day, Night };

}  // namespace octaphon::app

namespace octaphon::app::settings {

/// Sessions that are still there, the newest first.
QStringList recent();
void remember(const QString& session);

Colours colours();  ///< as the desktop has them, where nothing was chosen
void setColours(Colours colours);

/// Id of an audio device; empty: the system's.
QByteArray soundDevice();
void setSoundDevice(const QByteArray& id);

/// Of media that are converted; empty: the usual one.
QString cacheFolder();
void setCacheFolder(const QString& folder);
int cacheGigabytes();  ///< 1 … 1000; 10, where nothing was chosen
void setCacheGigabytes(int gigabytes);

/// That make files at a time; 0: one a core.
int workers();
void setWorkers(int count);

/// Where sessions are looked for and kept at first: the documents, where nothing was chosen.
QString sessionsFolder();
void setSessionsFolder(const QString& folder);
/// The same of briefs in files; empty: beside the session.
QString briefsFolder();
void setBriefsFolder(const QString& folder);

bool showsTimecode();
void setShowsTimecode(bool on);

/// Whether the log has names of files and things.
bool logsNames();
void setLogsNames(bool on);

ReadsBack readsBack();
void setReadsBack(ReadsBack how);

/// A part of the window's looks, by name.
QByteArray layout(const QString& part);
void setLayout(const QString& part, const QByteArray& state);

}  // namespace octaphon::app::settings
