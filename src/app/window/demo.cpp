#include "app/window/demo.h"

#include <QCoreApplication>
#include <QDir>
#include <QFileInfo>
#include <QProcess>

namespace octaphon::app {
namespace {

constexpr int kLookMs = 50;  // between looks whether it is to be stopped

}  // namespace

QString builtDemo() {
  const QString here = QCoreApplication::applicationDirPath();
  for (const QString& place : {qEnvironmentVariable("OCTAPHON_DEMO"), here + "/../../demo/Tidewheel.octaphon",
                               here + "/../../../demo/Tidewheel.octaphon"})
    if (!place.isEmpty() && QFileInfo::exists(place) && QDir(QFileInfo(place).path() + "/media").exists())
      return QFileInfo(place).canonicalFilePath();
  return {};
}

QString demoMaker() {
  for (const QString& maker : {qEnvironmentVariable("OCTAPHON_DEMO_MAKER"),
                               QCoreApplication::applicationDirPath() + "/../libexec/octaphon/octaphon-demo"})
    if (!maker.isEmpty() && QFileInfo(maker).isExecutable()) return maker;
  return {};
}

Result<> makeDemo(const QString& maker, const QString& folder, const JobControl& job) {
  QProcess process;
  process.start(maker, {folder});
  while (!process.waitForFinished(kLookMs)) {
    if (process.state() == QProcess::NotRunning)
      return fail(ErrorCode::NotReadable, maker.toStdString(), process.errorString().toStdString());
    if (!job.isStopped) continue;
    process.kill();
    process.waitForFinished();
    return fail(ErrorCode::Cancelled, folder.toStdString());
  }
  if (process.exitStatus() == QProcess::NormalExit && process.exitCode() == 0) return {};
  return fail(ErrorCode::Unsupported, folder.toStdString(),
              process.readAllStandardError().trimmed().toStdString());
}

}  // namespace octaphon::app
