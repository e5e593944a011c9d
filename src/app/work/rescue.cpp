#include "app/work/rescue.h"

#include <QDir>
#include <QJsonDocument>
#include <QJsonObject>
#include <QUuid>

#include "app/work/text.h"
#include "base/pending_file.h"
#include "session/session_file.h"
#include "session/session_json.h"

namespace octaphon::app {
namespace {

constexpr int kDelayMs = 1200;  // from the first change that is not kept, however fast the next ones follow

/// A line about the work, then the session.
QByteArray headOf(const Session& session, bool isNew) {
  const QJsonObject head{{"file", text(session.file.string())},
                         {"name", text(session.displayName())},
                         {"new", isNew},
                         {"when", QDateTime::currentDateTime().toString(Qt::ISODateWithMs)}};
  return QJsonDocument(head).toJson(QJsonDocument::Compact) + '\n';
}

}  // namespace

Rescue::Rescue(Document& document, QObject* parent) : QObject(parent), document_(document) {
  pool_.setMaxThreadCount(1);
  timer_.setSingleShot(true);
  timer_.setInterval(kDelayMs);
  connect(&timer_, &QTimer::timeout, this, &Rescue::write);
  connect(&document_, &Document::changed, this, &Rescue::keepSoon);
  // What is kept was of another file, or of another session.
  const auto beginAnew = [this] {
    forget();
    if (document_.isOpen() && document_.isModified()) keepSoon();
  };
  connect(&document_, &Document::moved, this, beginAnew);
  connect(&document_, &Document::opened, this, beginAnew);
  connect(&document_, &Document::modifiedChanged, this, [this](bool modified) {
    if (modified)
      keepSoon();
    else
      forget();
  });
}

Rescue::~Rescue() {
  disconnect(&document_, nullptr, this, nullptr);
  forget();
}

QString Rescue::folder() {
  QString own = qEnvironmentVariable("OCTAPHON_STATE");
  if (!own.isEmpty()) return own;
  const QString state = qEnvironmentVariable("XDG_STATE_HOME", QDir::homePath() + "/.local/state");
  return state + "/octaphon";
}

void Rescue::keepSoon() {
  if (!timer_.isActive()) timer_.start();
}

void Rescue::write() {
  written_ = false;
  if (!document_.isOpen() || !document_.isModified()) return;
  if (file_.isEmpty()) {
    QDir().mkpath(folder());
    const QString file = folder() + "/" + QUuid::createUuid().toString(QUuid::WithoutBraces) + ".work";
    auto lock = SessionLock::take(file.toStdString());
    if (!lock) return;
    lock_ = std::move(*lock);
    file_ = file;
  }
  // The session is a value: it is written elsewhere while one goes on working.
  pool_.start([this, session = document_.session(), file = file_.toStdString(), isNew = document_.isNew()] {
    written_ = replaceFile(file, headOf(*session, isNew).toStdString() + writeSession(*session)).has_value();
  });
}

void Rescue::keep(std::function<void(bool isKept)> then) {
  timer_.stop();
  write();
  pool_.start([this, then = std::move(then)] {  // behind what is being written
    QMetaObject::invokeMethod(
        this, [this, then] { then(written_); }, Qt::QueuedConnection);
  });
}

/// Behind what is being written. The file is locked until it is gone: nobody finds it as work that was lost.
void Rescue::forget() {
  timer_.stop();
  if (file_.isEmpty()) return;
  pool_.start([file = std::exchange(file_, {}), lock = std::make_shared<SessionLock>(std::move(lock_))] {
    QFile::remove(file);
    lock->release();
  });
}

std::vector<RescuedWork> Rescue::found() {
  std::vector<RescuedWork> all;
  for (const QFileInfo& info : QDir(folder()).entryInfoList({"*.work"}, QDir::Files, QDir::Time)) {
    if (!SessionLock::take(info.filePath().toStdString())) continue;  // that program is still there
    QFile file(info.filePath());
    if (!file.open(QIODevice::ReadOnly)) continue;
    const QJsonObject head = QJsonDocument::fromJson(file.readLine(100'000)).object();
    if (head.isEmpty()) continue;
    all.push_back({info.filePath(), head["new"].toBool() ? QString() : head["file"].toString(),
                   head["name"].toString(),
                   QDateTime::fromString(head["when"].toString(), Qt::ISODateWithMs)});
  }
  return all;
}

Result<Session> Rescue::read(const RescuedWork& work, JobControl* job) {
  OCTAPHON_ASSIGN(const std::string bytes, readFile(work.keptIn.toStdString(), kMaxSessionBytes));
  const std::size_t line = bytes.find('\n');
  if (line == std::string::npos)
    return fail(ErrorCode::Syntax, work.keptIn.toStdString(), "the work kept there is damaged");
  const QJsonObject head = QJsonDocument::fromJson(QByteArray::fromStdString(bytes.substr(0, line))).object();
  OCTAPHON_ASSIGN(Session session,
                  readSession(std::string_view(bytes).substr(line + 1), work.keptIn.toStdString(), job));
  session.file = head["file"].toString().toStdString();
  return session;
}

void Rescue::discard(const RescuedWork& work) { QFile::remove(work.keptIn); }

}  // namespace octaphon::app
