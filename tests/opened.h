// A window with the demo in it, for tests that drive the real interface.
#pragma once

#include <QtTest>
#include <QtWidgets>

#include "app/window/main_window.h"
#include "support.h"
#include "app/look/theme.h"

namespace octaphon::test {

/// A copy of the demo with sounds that are quickly made, and a window on it.
class Opened {
 public:
  QTemporaryDir dir;
  MediaCache cache;
  app::MainWindow window;

  Opened() : cache((dir.path() + "/cache").toStdString()), window(cache) {
    static const QString demo = [] {
      static QTemporaryDir made;
      if (run(OCTAPHON_DEMO_MAKER, {made.path()}).exit != 0) qFatal("no demo");
      return made.path();
    }();
    QDir(dir.path()).mkpath("media");
    for (const QString& file : QDir(demo + "/media").entryList(QDir::Files))
      QFile::link(demo + "/media/" + file, dir.path() + "/media/" + file);
    QFile::copy(demo + "/Tidewheel.octaphon", session());
    window.resize(1280, 800);
    window.show();
    QVERIFY(QTest::qWaitForWindowExposed(&window));
    window.activateWindow();
    (void)QTest::qWaitForWindowActive(&window, 3000);
  }

  QString session() const { return dir.filePath("Tidewheel.octaphon"); }

  void open() {
    QVERIFY(window.sessions().open(session()));
    settle();
  }

  void settle() {
    QVERIFY(QTest::qWaitFor(
        [&] { return !window.keeper().isPlanning() && !window.keeper().sheet()->briefs.empty(); }, 20000));
  }

  QStringList files() const {
    QStringList names;
    for (const Row& row : work_().sheets().sheet()->rows) names << QString::fromStdString(row.file);
    return names;
  }
  long count(RowState state) const {
    const auto& rows = work_().sheets().sheet()->rows;
    return std::count_if(rows.begin(), rows.end(), [&](const Row& row) { return row.state == state; });
  }
  void waitForRun() {
    QVERIFY(QTest::qWaitFor([&] { return !window.making().isRunning(); }, 120000));
    settle();
  }

 private:
  app::MainWindow& window_() const { return const_cast<app::MainWindow&>(window); }
};

inline void key(QWidget* widget, int code, Qt::KeyboardModifiers modifiers = Qt::NoModifier) {
  QTest::keyClick(widget, static_cast<Qt::Key>(code), modifiers);
}

/// Settings, state and look of a program that is being tested; gives the folder that its state lies in.
inline std::unique_ptr<QTemporaryDir> prepareTests() {
  auto state = std::make_unique<QTemporaryDir>();
  QStandardPaths::setTestModeEnabled(true);
  QCoreApplication::setOrganizationName("octaphon-tests");
  QSettings().clear();
  qputenv("OCTAPHON_STATE", state->path().toLocal8Bit());
  app::Theme::instance().install();
  return state;
}

}  // namespace octaphon::test
