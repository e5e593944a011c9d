#include "app/look/desktop_look.h"

#include <QDBusConnection>
#include <QDBusPendingCallWatcher>
#include <QDBusPendingReply>
#include <QDBusVariant>

#include "app/look/desktop_bus.h"
#include "app/look/theme.h"

namespace octaphon::app {
namespace {

constexpr const char *kPortal = "org.freedesktop.portal.Desktop", *kPath = "/org/freedesktop/portal/desktop",
                     *kSettings = "org.freedesktop.portal.Settings", *kGroup = "org.freedesktop.appearance",
                     *kKey = "color-scheme";
enum Scheme : uint { kNoPreference, kDark, kLight };

}  // namespace

DesktopLook::DesktopLook(QObject* parent) : QObject(parent), isDark_(Theme::instance().isSystemDark()) {
  if (!hasDesktopBus()) return;
  QDBusConnection bus = QDBusConnection::sessionBus();
  bus.connect(kPortal, kPath, kSettings, "SettingChanged", this, SLOT(settingChanged(QDBusMessage)));
  QDBusMessage call = QDBusMessage::createMethodCall(kPortal, kPath, kSettings, "Read");
  call << QString(kGroup) << QString(kKey);
  auto* watcher = new QDBusPendingCallWatcher(bus.asyncCall(call), this);
  connect(watcher, &QDBusPendingCallWatcher::finished, this, [this, watcher] {
    watcher->deleteLater();
    if (const QDBusPendingReply<QDBusVariant> reply = *watcher; reply.isValid())
      take(reply.value().variant());
  });
}

/// A group, a key, and its value.
void DesktopLook::settingChanged(const QDBusMessage& message) {
  const QVariantList told = message.arguments();
  if (told.size() == 3 && told[0] == kGroup && told[1] == kKey) take(told[2]);
}

/// Portals give a variant in a variant.
void DesktopLook::take(const QVariant& scheme) {
  if (scheme.canConvert<QDBusVariant>()) return take(scheme.value<QDBusVariant>().variant());
  bool isNumber = false;
  const uint value = scheme.toUInt(&isNumber);
  if (!isNumber) return;
  const bool dark = value == kDark || (value != kLight && Theme::instance().isSystemDark());
  if (dark == isDark_) return;
  isDark_ = dark;
  emit changed();
}

}  // namespace octaphon::app
