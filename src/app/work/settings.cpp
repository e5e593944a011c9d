#include "app/work/settings.h"

#include <QCryptographicHash>
#include <QFileInfo>
#include <QSettings>

namespace octaphon::app::settings {
namespace {

constexpr int kMostRecent = 8;

/// Settings have no slashes in their keys.
QString ticksKey(const QString& session) {
  const QString file = QFileInfo(session).canonicalFilePath();  // whatever path or link leads to it
  return "ticks/" +
         QString::fromLatin1(QCryptographicHash::hash(file.toUtf8(), QCryptographicHash::Sha1).toHex());
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

bool night() { return QSettings().value("night", false).toBool(); }
void setNight(bool on) { QSettings().setValue("night", on); }

QByteArray layout(const QString& part) { return QSettings().value("layout/" + part).toByteArray(); }
void setLayout(const QString& part, const QByteArray& state) {
  QSettings().setValue("layout/" + part, state);
}

std::set<std::string> unticked(const QString& session) {
  std::set<std::string> briefs;
  for (const QString& id : QSettings().value(ticksKey(session)).toStringList())
    briefs.insert(id.toStdString());
  return briefs;
}

void setUnticked(const QString& session, const std::set<std::string>& briefs) {
  QStringList ids;
  for (const std::string& id : briefs) ids << QString::fromStdString(id);
  if (ids.isEmpty())
    QSettings().remove(ticksKey(session));
  else
    QSettings().setValue(ticksKey(session), ids);
}

}  // namespace octaphon::app::settings
