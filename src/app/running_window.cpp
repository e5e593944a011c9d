#include "app/running_window.h"

#include <QDBusConnection>
#include <QDBusConnectionInterface>
#include <QDBusMessage>
#include <QTimer>
#include <QUrl>

#include "app/look/desktop_bus.h"

namespace octaphon::app {
namespace {

constexpr const char *kService = "org.octaphon.Octaphon", *kPath = "/org/octaphon/Octaphon",
                     *kInterface = "org.freedesktop.Application", *kNewAction = "new";
constexpr int kPatienceMs = 3000;

/// What lets the window come to the front: of Wayland (xdg-activation) or X11 (startup notification).
constexpr std::pair<const char*, const char*> kTokens[] = {{"activation-token", "XDG_ACTIVATION_TOKEN"},
                                                           {"desktop-startup-id", "DESKTOP_STARTUP_ID"}};

QVariantMap platformData() {
  QVariantMap data;
  for (const auto& [key, variable] : kTokens)
    if (const QString token = qEnvironmentVariable(variable); !token.isEmpty()) data[key] = token;
  return data;
}

QDBusMessage callFor(const Asked& asked) {
  const auto method = [](const char* name) {
    return QDBusMessage::createMethodCall(kService, kPath, kInterface, name);
  };
  if (asked.isNew) return method("ActivateAction") << QString(kNewAction) << QVariantList() << platformData();
  if (asked.files.isEmpty()) return method("Activate") << platformData();
  QStringList uris;
  for (const QString& file : asked.files) uris << QUrl::fromLocalFile(file).toString(QUrl::FullyEncoded);
  return method("Open") << uris << platformData();
}

}  // namespace

bool handOver(const Asked& asked) {
  if (!hasDesktopBus()) return false;
  QDBusConnection bus = QDBusConnection::sessionBus();
  if (!bus.isConnected() || !bus.interface()->isServiceRegistered(kService)) return false;
  const QDBusMessage answer = bus.call(callFor(asked), QDBus::Block, kPatienceMs);
  return answer.type() == QDBusMessage::ReplyMessage;
}

RunningWindow::RunningWindow(Take take, QObject* parent)
    : QDBusAbstractAdaptor(parent), take_(std::move(take)) {
  if (!hasDesktopBus()) return;
  QDBusConnection bus = QDBusConnection::sessionBus();
  // Ready to answer before it can be asked.
  if (bus.registerObject(kPath, parent, QDBusConnection::ExportAdaptors)) bus.registerService(kService);
}

RunningWindow::~RunningWindow() {
  if (hasDesktopBus()) QDBusConnection::sessionBus().unregisterService(kService);
}

void RunningWindow::Activate(const QVariantMap& platformData) { takeLater({}, platformData); }

void RunningWindow::Open(const QStringList& uris, const QVariantMap& platformData) {
  Asked asked;
  for (const QString& uri : uris)
    if (const QUrl url(uri); url.isLocalFile()) asked.files << url.toLocalFile();
  takeLater(std::move(asked), platformData);
}

void RunningWindow::ActivateAction(const QString& action, const QVariantList&,
                                   const QVariantMap& platformData) {
  takeLater({{}, action == kNewAction}, platformData);
}

void RunningWindow::takeLater(Asked asked, const QVariantMap& platformData) {
  for (const auto& [key, variable] : kTokens)
    if (const QString token = platformData[key].toString(); !token.isEmpty())
      qputenv(variable, token.toUtf8());
  QTimer::singleShot(0, this, [this, asked = std::move(asked)] { take_(asked); });
}

}  // namespace octaphon::app
