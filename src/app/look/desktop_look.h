// Whether the desktop is dark: org.freedesktop.appearance color-scheme of the desktop portal (XDG Desktop
// Portal, Settings), and where no portal says, the colours that Qt found on the system.
#pragma once

#include <QDBusMessage>
#include <QObject>

namespace octaphon::app {

class DesktopLook : public QObject {
  Q_OBJECT
 public:
  /// Asks the portal, which answers later.
  explicit DesktopLook(QObject* parent);
  bool isDark() const { return isDark_; }

 signals:
  void changed();

 private slots:
  void settingChanged(const QDBusMessage& message);

 private:
  void take(const QVariant& scheme);
  bool isDark_;
};

}  // namespace octaphon::app
