// octaphon-bench-timeline SESSION: how long the window takes to open a large session, and to draw the
// timeline and the sheet while someone scrolls and zooms.
#include <algorithm>
#include <cstdio>
#include <functional>
#include <QApplication>
#include <QElapsedTimer>
#include <QScrollBar>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <vector>

#include "main_window.h"
#include "theme.h"

namespace {

void report(const char* name, int times, const std::function<void(int)>& work) {
  std::vector<double> ms;
  for (int i = 0; i < times; ++i) {
    QElapsedTimer clock;
    clock.start();
    work(i);
    ms.push_back(static_cast<double>(clock.nsecsElapsed()) / 1e6);
  }
  std::sort(ms.begin(), ms.end());
  std::printf("%-28s median %7.2f ms, worst %7.2f ms\n", name, ms[ms.size() / 2], ms.back());
}

bool waitFor(const std::function<bool()>& done, int ms) {
  QElapsedTimer clock;
  clock.start();
  while (!done() && clock.elapsed() < ms) QApplication::processEvents(QEventLoop::AllEvents, 20);
  return done();
}

}  // namespace

int main(int argc, char** argv) {
  using namespace octaphon;
  if (argc != 2) return 2;
  qputenv("QT_QPA_PLATFORM", "offscreen");
  QStandardPaths::setTestModeEnabled(true);
  QApplication application(argc, argv);
  app::Theme::instance().install();
  QTemporaryDir folder;
  MediaCache cache(folder.path().toStdString());
  app::MainWindow window(cache);
  window.resize(1280, 800);
  window.show();
  report("open, until the window is back", 1, [&](int) { window.openSession(argv[1]); });
  report("open, until the sheet is there", 1,
         [&](int) { waitFor([&] { return !window.keeper().sheet()->rows.empty(); }, 60000); });
  waitFor([] { return false; }, 1500);
  app::TimelineView& timeline = window.timeline();
  const auto draw = [&] { timeline.viewport()->repaint(); };
  report("timeline, whole session", 40, [&](int) { draw(); });
  report("scrolling down", 200, [&](int i) {
    timeline.verticalScrollBar()->setValue(i * 120);
    draw();
  });
  timeline.showSpan(0, 48000 * 30);
  timeline.verticalScrollBar()->setValue(0);
  report("scrolling along", 200, [&](int i) {
    timeline.horizontalScrollBar()->setValue(i * 90);
    draw();
  });
  report("zooming", 60, [&](int i) {
    timeline.zoomBy(i < 30 ? 1.3 : 1 / 1.3);
    draw();
  });
  QTableView& sheet = window.sheetView().table();
  report("scrolling the sheet", 200, [&](int i) {
    sheet.verticalScrollBar()->setValue(i * 13);
    sheet.viewport()->repaint();
  });
  report("sorting the sheet", 5, [&](int i) {
    window.sheetView().model().sort(0, i % 2 ? Qt::AscendingOrder : Qt::DescendingOrder);
  });
  return 0;
}
