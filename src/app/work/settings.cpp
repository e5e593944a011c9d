#include "app/work/settings.h"

#include <algorithm>
#include <QCryptographicHash>
#include <QFileInfo>
#include <QSettings>

namespace octaphon::app::settings {
namespace {

constexpr int kMostRecent = 8;

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

ReadsBack readsBack() {
  return static_cast<ReadsBack>(std::clamp(QSettings().value("reads-back", 0).toInt(), 0, 2));
}
void setReadsBack(ReadsBack how) { QSettings().setValue("reads-back", static_cast<int>(how)); }

QByteArray layout(const QString& part) { return QSettings().value("layout/" + part).toByteArray(); }
void setLayout(const QString& part, const QByteArray& state) {
  QSettings().setValue("layout/" + part, state);
}

}  // namespace octaphon::app::settings
