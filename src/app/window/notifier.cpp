#include "app/window/notifier.h"

#include <QApplication>
#include <QDBusConnection>
#include <QDBusMessage>

#include "app/work/text.h"
#include "base/unicode.h"

namespace octaphon::app {
namespace {

QString summaryOf(const RunSummary& run) {
  const QString files = text(counted(run.written + run.renamed + run.rewritten, "file"));
  if (run.cancelled) return Notifier::tr("Stopped: %1 made").arg(files);
  return run.failed > 0 ? Notifier::tr("%1 made, %2 failed").arg(files).arg(run.failed)
                        : Notifier::tr("%1 made").arg(files);
}

}  // namespace

Notifier::Notifier(Work& work, QObject* parent, double longSeconds)
    : QObject(parent), longSeconds_(longSeconds) {
  connect(&work.making(), &Making::finished, this, &Notifier::tell);
}

void Notifier::tell(const MadeReport& report) const {
  if (report.summary.seconds < longSeconds_ || QApplication::activeWindow() != nullptr) return;
  QDBusMessage call =
      QDBusMessage::createMethodCall("org.freedesktop.Notifications", "/org/freedesktop/Notifications",
                                     "org.freedesktop.Notifications", "Notify");
  const QString body =
      report.failed.empty() ? QString() : report.failed.front().file + ": " + report.failed.front().why;
  constexpr int kUsualTimeout = -1;
  call << "Octaphon" << 0u << "org.octaphon.Octaphon" << summaryOf(report.summary) << body.toHtmlEscaped()
       << QStringList() << QVariantMap{{"desktop-entry", "org.octaphon.Octaphon"}} << kUsualTimeout;
  QDBusConnection::sessionBus().send(call);
}

}  // namespace octaphon::app
