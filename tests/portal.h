// A stand-in for the desktop portal, with one setting (XDG Desktop Portal, Settings).
#pragma once

#include <QDBusConnection>
#include <QDBusVariant>
#include <QObject>

namespace octaphon::test {

class Portal : public QObject {
  Q_OBJECT
  Q_CLASSINFO("D-Bus Interface", "org.freedesktop.portal.Settings")
 public:
  uint scheme = 1;  ///< 0 no choice, 1 dark, 2 light

  Portal() {
    bus_.registerObject("/org/freedesktop/portal/desktop", this,
                        QDBusConnection::ExportAllSlots | QDBusConnection::ExportAllSignals);
    bus_.registerService("org.freedesktop.portal.Desktop");
  }
  ~Portal() override { QDBusConnection::disconnectFromBus("portal"); }
  void change(uint to) {
    scheme = to;
    emit SettingChanged("org.freedesktop.appearance", "color-scheme", QDBusVariant(to));
  }

 public slots:
  QDBusVariant Read(const QString&, const QString&) {
    return QDBusVariant(QVariant::fromValue(QDBusVariant(scheme)));
  }

 signals:
  void SettingChanged(const QString& group, const QString& key, const QDBusVariant& value);

 private:
  QDBusConnection bus_ = QDBusConnection::connectToBus(QDBusConnection::SessionBus, "portal");
};

}  // namespace octaphon::test
