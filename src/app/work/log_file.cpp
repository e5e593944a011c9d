#include "app/work/log_file.h"

#include <QAudioDevice>
#include <QDateTime>
#include <QDir>
#include <QFile>
#include <QGuiApplication>
#include <QLocale>
#include <QMediaDevices>
#include <QRegularExpression>
#include <QScreen>
#include <QStorageInfo>
#include <QSysInfo>
#include <thread>

#include "app/work/settings.h"
#include "app/work/text.h"
#include "media/media_cache.h"
#include "run/worker_process.h"

namespace octaphon::app {
namespace {

constexpr qint64 kMostLogBytes = 512 * 1024;  // of each of the two

QtMessageHandler usualHandler = nullptr;

/// Qt quotes names, and gives files with their folders or endings: what stands before is without.
QString withoutNames(const QString& message) {
  static const QRegularExpression name("[\"'“‘«/]|\\S*\\.\\w");
  const QString words = message.left(name.match(message).capturedStart()).trimmed();
  return words.size() < message.trimmed().size() ? words + " …" : words;
}

void logMessage(QtMsgType type, const QMessageLogContext& context, const QString& message) {
  if (type != QtDebugMsg && type != QtInfoMsg)
    writeLog(type == QtWarningMsg ? LogLevel::Warning : LogLevel::Error,
             "Qt: " + withoutNames(message).toStdString(), message.toStdString());
  if (usualHandler != nullptr) usualHandler(type, context, message);
}

}  // namespace

LogFile* LogFile::current_ = nullptr;

LogFile::LogFile(const QString& folder) : file_(folder + "/log.txt"), before_(folder + "/log-before.txt") {
  QDir().mkpath(folder);
  open();
  current_ = this;
  setLogSink([this](const LogLine& line) { write(line); }, LogLevel::Note);
  usualHandler = qInstallMessageHandler(logMessage);
  writeLog(LogLevel::Note, "Octaphon " + QCoreApplication::applicationVersion().toStdString() + " begins");
}

LogFile::~LogFile() {
  writeLog(LogLevel::Note, "Octaphon ends");
  qInstallMessageHandler(usualHandler);
  setLogSink({});
  current_ = nullptr;
}

void LogFile::open() {
  out_.open(file_.toStdString(), std::ios::app);
  size_ = QFileInfo(file_).size();
}

void LogFile::write(const LogLine& line) {
  QString words = QDateTime::currentDateTime().toString(Qt::ISODateWithMs) + "  " +
                  app::text(logLevelName(line.level)).leftJustified(7) + "  " +
                  app::text(printable(line.what, 1000));
  if (!line.name.empty() && settings::logsNames()) words += ": " + app::text(printable(line.name, 1000));
  const QByteArray bytes = words.toUtf8() + '\n';
  const std::scoped_lock lock(mutex_);
  if (size_ + bytes.size() > kMostLogBytes) {
    out_.close();
    QFile::remove(before_);
    QFile::rename(file_, before_);
    open();
  }
  out_.write(bytes.data(), bytes.size()).flush();
  size_ += bytes.size();
}

QString LogFile::text() {
  const std::scoped_lock lock(mutex_);
  out_.flush();
  QString all;
  for (const QString& name : {before_, file_})
    if (QFile file(name); file.open(QIODevice::ReadOnly)) all += QString::fromUtf8(file.readAll());
  return all;
}

QString stateOfThings() {
  QStringList lines;
  const auto add = [&](const QString& what, const QString& value) { lines << what + ": " + value; };
  add("Octaphon", QCoreApplication::applicationVersion());
  add("Qt", qVersion());
  add("System", QSysInfo::prettyProductName() + ", " + QSysInfo::kernelVersion() + ", " +
                    QSysInfo::currentCpuArchitecture());
  add("Cores", QString::number(std::thread::hardware_concurrency()));
  add("Window system", QGuiApplication::platformName());
  for (const QScreen* screen : QGuiApplication::screens())
    add("Screen", QString("%1 × %2 at %3 %")
                      .arg(screen->size().width())
                      .arg(screen->size().height())
                      .arg(screen->devicePixelRatio() * 100));
  add("Sound devices", QString::number(QMediaDevices::audioOutputs().size()));
  auto worker = WorkerProcess::start("list");
  add("Program of plug-ins", worker && worker->readText() ? "answers" : "does not answer");
  const QString cache = app::text(MediaCache::defaultFolder().string());
  add("Room for converted media",
      QLocale::c().formattedDataSize(
          QStorageInfo(QFileInfo(cache).isDir() ? cache : QDir::homePath()).bytesAvailable()));
  return lines.join('\n') + '\n';
}

}  // namespace octaphon::app
