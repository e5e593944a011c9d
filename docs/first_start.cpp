#include "first_start.h"

#include <QDateTime>
#include <QDir>
#include <QFileDialog>
#include <QPainter>
#include <QTest>
#include <QTimer>

#include "app/window/main_window.h"
#include "app/work/settings.h"
#include "portal.h"

namespace octaphon::app {
namespace {

/// Folders of whoever takes the pictures are nobody's business, and neither is the time.
QString documents() {
  const QString home = QDir::tempPath() + "/harbour";
  const QString kinds = home + "/.qttest/share/mime/packages";
  for (const QString& folder : {home + "/Documents", kinds}) QDir().mkpath(folder);
  QFile::copy(OCTAPHON_MIME, kinds + "/octaphon.xml");
  int minutes = 0;
  for (const char* name : {"Night tour.octaphon", "Quay bells.octaphon", "Tide theme.octaphon"}) {
    QFile file(home + "/Documents/" + name);
    if (!file.open(QIODevice::WriteOnly)) continue;
    minutes += 19;
    file.write(QByteArray(34000 + 900 * minutes, ' '));
    file.setFileTime(QDateTime({2026, 11, 2}, {14, minutes}), QFileDevice::FileModificationTime);
  }
  qputenv("HOME", home.toLocal8Bit());
  return home + "/Documents";
}

QImage together(QWidget& window, QWidget& dialog) {
  QPixmap all = window.grab();
  const QPixmap above = dialog.grab();
  QPainter painter(&all);
  const QPoint at(window.width() - dialog.width() - 40, window.height() - dialog.height() - 40);
  painter.drawPixmap(at, above);
  painter.setPen(colour(Role::Frame));
  painter.drawRect(QRect(at, dialog.size()));
  return all.toImage();
}

}  // namespace

bool takeFirstStart(const QString& file) {
  const test::Portal desktop;
  settings::setColours(Colours::Desktop);
  settings::setSessionsFolder(documents());
  MediaCache cache((QDir::tempPath() + "/harbour/cache").toStdString());
  Work work(cache);
  MainWindow window(work);
  window.resize(1280, 800);
  window.show();
  bool isTaken = false;
  if (!QTest::qWaitFor([] { return Theme::instance().look() == Look::Night; })) return false;
  QTimer::singleShot(1500, &window, [&] {
    auto* dialog = window.findChild<QFileDialog*>();
    if (dialog == nullptr) return;
    isTaken = together(window, *dialog).save(file);
    dialog->reject();
  });
  window.commands().action("session.open")->trigger();
  return isTaken;
}

}  // namespace octaphon::app
