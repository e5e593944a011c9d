// One window at a time, as the desktop expects it: a program that is started while another runs hands over
// what it was asked for. Over the session bus, as org.freedesktop.Application of the Desktop Entry
// Specification 1.5 (D-Bus Activation). Without a bus each start has its own window.
#pragma once

#include <functional>
#include <QDBusAbstractAdaptor>
#include <QStringList>
#include <QVariantMap>

namespace octaphon::app {

/// What somebody who starts the program wants of it; nothing of it: the window.
struct Asked {
  QStringList files;  ///< absolute
  bool isNew = false;
};

/// Whether a window that runs took it. It is given up after a few seconds.
bool handOver(const Asked& asked);

/// Answers those that hand over, as long as it lives.
class RunningWindow : public QDBusAbstractAdaptor {
  Q_OBJECT
  Q_CLASSINFO("D-Bus Interface", "org.freedesktop.Application")
 public:
  using Take = std::function<void(const Asked& asked)>;
  /// `take` is called after the answer: it may ask questions.
  RunningWindow(Take take, QObject* parent);
  ~RunningWindow() override;

 public slots:
  void Activate(const QVariantMap& platformData);
  void Open(const QStringList& uris, const QVariantMap& platformData);
  void ActivateAction(const QString& action, const QVariantList& parameter, const QVariantMap& platformData);

 private:
  void takeLater(Asked asked, const QVariantMap& platformData);
  Take take_;
};

}  // namespace octaphon::app
