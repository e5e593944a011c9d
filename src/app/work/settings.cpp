#include "app/work/settings.h"

#include <algorithm>
#include <QDir>
#include <QFileInfo>
#include <QSettings>
#include <QStandardPaths>

namespace octaphon::app::settings {
namespace {

constexpr int kMostRecent = 8;
constexpr int kUsualGigabytes = 10, kMostGigabytes = 1000, kMostWorkers = 256;

template <class Enum>
Enum choice(const char* key, Enum last) {
  return static_cast<Enum>(std::clamp(QSettings().value(key, 0).toInt(), 0, static_cast<int>(last)));
}
template <class Enum>
void setChoice(const char* key, Enum value) {
  QSettings().setValue(key, static_cast<int>(value));
}

/// One that went away since is not looked for in vain.
QString folder(const char* key) {
  const QString chosen = QSettings().value(key).toString();
  return !chosen.isEmpty() && QFileInfo(chosen).isDir() ? chosen : QString();
}

}  // namespace

QStringList recent() {
  QStringList files = QSettings().value("recent").toStringList();
  files.removeIf([](const QString& file) { return !QFileInfo::exists(file); });
  return files;
}

void remember(const QString& session) {
  QStringList files = recent();
  files.removeAll(session);
  files.prepend(session);
  QSettings().setValue("recent", QStringList(files.mid(0, kMostRecent)));
}

Colours colours() { return choice("colours", Colours::Night); }
void setColours(Colours colours) { setChoice("colours", colours); }

QByteArray soundDevice() { return QSettings().value("sound-device").toByteArray(); }
void setSoundDevice(const QByteArray& id) { QSettings().setValue("sound-device", id); }

QString cacheFolder() { return QSettings().value("cache-folder").toString(); }
void setCacheFolder(const QString& folder) { QSettings().setValue("cache-folder", folder); }
int cacheGigabytes() {
  return std::clamp(QSettings().value("cache-gigabytes", kUsualGigabytes).toInt(), 1, kMostGigabytes);
}
void setCacheGigabytes(int gigabytes) { QSettings().setValue("cache-gigabytes", gigabytes); }

int workers() { return std::clamp(QSettings().value("workers", 0).toInt(), 0, kMostWorkers); }
void setWorkers(int count) { QSettings().setValue("workers", count); }

QString sessionsFolder() {
  if (const QString chosen = folder("sessions-folder"); !chosen.isEmpty()) return chosen;
  const QString documents = QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation);
  return documents.isEmpty() ? QDir::homePath() : documents;
}
void setSessionsFolder(const QString& folder) { QSettings().setValue("sessions-folder", folder); }
QString briefsFolder() { return folder("briefs-folder"); }
void setBriefsFolder(const QString& folder) { QSettings().setValue("briefs-folder", folder); }

bool showsTimecode() { return QSettings().value("timecode", false).toBool(); }
void setShowsTimecode(bool on) { QSettings().setValue("timecode", on); }

bool logsNames() { return QSettings().value("log-names", false).toBool(); }
void setLogsNames(bool on) { QSettings().setValue("log-names", on); }

ReadsBack readsBack() { return choice("reads-back", ReadsBack::None); }
void setReadsBack(ReadsBack how) { setChoice("reads-back", how); }

QByteArray layout(const QString& part) { return QSettings().value("layout/" + part).toByteArray(); }
void setLayout(const QString& part, const QByteArray& state) {
  QSettings().setValue("layout/" + part, state);
}

}  // namespace octaphon::app::settings
